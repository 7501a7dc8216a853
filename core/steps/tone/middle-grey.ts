/** The reflectance of the middle grey, about which tones are told in stops. */
export const MIDDLE_GREY = 0.18;
