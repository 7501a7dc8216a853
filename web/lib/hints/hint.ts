/** What a control says of itself when it is pointed at or focused: one sentence, its shortcut, its range. */

/** The hint's attributes, for a control or any other element; none where there is nothing to say. */
export const hint = (text: string | null | undefined): Record<string, string> =>
  text ? { 'data-hint': text, 'aria-description': text } : {};
