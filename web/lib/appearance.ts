/** How the app looks to a person: kept in a cookie, so that pages come in it at once. */
export const THEMES = ['light', 'dim'] as const;
export const SURROUNDS = ['grey', 'white', 'black'] as const;
export interface Appearance {
  theme: (typeof THEMES)[number];
  /** About the picture. */
  surround: (typeof SURROUNDS)[number];
}

export const APPEARANCE_COOKIE = 'view';
const YEAR = 365 * 24 * 3600;

/** An appearance from the text of the cookie; what is not known there is as it ships. */
export function readAppearance(text: string | undefined): Appearance {
  const [theme, surround] = (text ?? '').split('.');
  return {
    theme: THEMES.find((name) => name === theme) ?? 'light',
    surround: SURROUNDS.find((name) => name === surround) ?? 'grey'
  };
}

/** Shows and keeps an appearance; in the browser. */
export function keepAppearance(appearance: Appearance): void {
  Object.assign(document.documentElement.dataset, appearance);
  document.cookie = `${APPEARANCE_COOKIE}=${appearance.theme}.${appearance.surround}; path=/; max-age=${YEAR}; samesite=strict`;
}

/** The appearance in hand; in the browser. */
export const appearanceInHand = (): Appearance => {
  const { theme, surround } = document.documentElement.dataset;
  return readAppearance(`${theme}.${surround}`);
};
