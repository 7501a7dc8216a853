/** The sheet's overlay needs a canvas: the bench is drawn in the browser only. */
export const ssr = false;
