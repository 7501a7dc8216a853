/** Texts that the database, or a file name, could not hold. */
export const isPlainText = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

/** Whether all words in a document, names of entries among them, are plain text. */
export function isPlain(value: unknown): boolean {
  if (typeof value === 'string') return isPlainText(value);
  if (typeof value !== 'object' || value === null) return true;
  return Object.entries(value).every(([name, each]) => isPlainText(name) && isPlain(each));
}
