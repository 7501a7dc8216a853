/** File names from patterns with tokens, safe on every operating system. */

export const TOKENS = [
  'job',
  'address',
  'client',
  'frame',
  'number',
  'room',
  'ratio',
  'date',
  'deliverable',
  'counter',
  'revision',
  'revision-name'
] as const;
export type Token = (typeof TOKENS)[number];
export type TokenValues = Record<Token, string>;

/** Longest name without its ending: with it, within what every file system takes. */
const LONGEST = 180;
/** Names that one operating system keeps for devices. */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/** Tokens in braces that there are not. */
export function unknownTokens(pattern: string): string[] {
  return [...pattern.matchAll(/\{([^{}]*)\}/g)]
    .map(([, name]) => name)
    .filter((name) => !TOKENS.includes(name as Token));
}

/** A text with its tokens filled in; unknown ones stay as they are. */
export function fillTokens(pattern: string, values: TokenValues): string {
  return pattern.replace(/\{([^{}]*)\}/g, (whole, name: string) =>
    TOKENS.includes(name as Token) ? values[name as Token] : whole
  );
}

/** A name that every operating system takes: no folders, no control characters, nothing reserved. */
export function safeName(text: string): string {
  const clean = text
    .normalize('NFC')
    .replace(/[\u0000-\u001f\u007f-\u009f<>:"/\\|?*\u200b-\u200f\u202a-\u202e\ufeff]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    // A leading dot hides a file; a trailing dot or space is lost on some systems.
    .replace(/^[. ]+/, '')
    .slice(0, LONGEST)
    .replace(/[. ]+$/, '');
  if (!clean) return 'unnamed';
  return RESERVED.test(clean.split('.')[0]) ? `${clean}_` : clean;
}

/** A token that stands for nothing takes what parts it from its neighbour along. */
const withoutEmpty = (pattern: string, values: TokenValues): string =>
  pattern.replace(/[-_ .]?\{(revision|revision-name)\}/g, (whole, name: Token) =>
    values[name] === '' ? '' : whole
  );

/** The file name, without ending, that a pattern gives. */
export const fileName = (pattern: string, values: TokenValues): string =>
  safeName(safeName(fillTokens(withoutEmpty(pattern, values), values)).replaceAll(' ', '-'));

/** Whether a pattern tells revisions of one frame apart. */
export const namesRevision = (pattern: string): boolean => /\{revision(-name)?\}/.test(pattern);

/** Names are the same when a file system that ignores case takes them for the same. */
export const nameKey = (name: string): string => name.normalize('NFC').toLowerCase();
