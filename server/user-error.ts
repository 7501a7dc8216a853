/** An error whose message is meant for the user: it says what is wrong and what to do. */
export class UserError extends Error {
  override name = 'UserError';

  /** `field`: what of a form it is about, so that it can stand beside that. */
  constructor(
    message: string,
    readonly field?: string
  ) {
    super(message);
  }
}
