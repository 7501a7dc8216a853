/** An error whose message is meant for the user: it says what is wrong and what to do. */
export class UserError extends Error {
  override name = 'UserError';
}
