/** How the app looks to a person: kept in a cookie, so that pages come in it at once. */
export const THEMES = ['light', 'dim'] as const;
export const SURROUNDS = ['grey', 'white', 'black'] as const;
export interface Look {
  theme: (typeof THEMES)[number];
  /** About the picture. */
  surround: (typeof SURROUNDS)[number];
}

export const LOOK_COOKIE = 'look';
const YEAR = 365 * 24 * 3600;

/** A look from the text of the cookie; what is not known there is as it ships. */
export function readLook(text: string | undefined): Look {
  const [theme, surround] = (text ?? '').split('.');
  return {
    theme: THEMES.find((name) => name === theme) ?? 'light',
    surround: SURROUNDS.find((name) => name === surround) ?? 'grey'
  };
}

/** Shows and keeps a look; in the browser. */
export function keepLook(look: Look): void {
  Object.assign(document.documentElement.dataset, look);
  document.cookie = `${LOOK_COOKIE}=${look.theme}.${look.surround}; path=/; max-age=${YEAR}; samesite=strict`;
}

/** The look in hand; in the browser. */
export const lookInHand = (): Look => {
  const { theme, surround } = document.documentElement.dataset;
  return readLook(`${theme}.${surround}`);
};
