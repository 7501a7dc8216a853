/** Whether settings are as the app set them by itself: a name of what was set is kept beside them. */
import { hashOf } from './hash.ts';
import { type SettingsSchema, touchedSettings } from './step.ts';

/** The setting that keeps it; it changes nothing in a picture. */
export const SET_BY_ITSELF = 'setByItself';

export const setByItselfSetting = {
  type: ['string', 'null'],
  default: null,
  maxLength: 80,
  label: 'Set by itself',
  description: 'A name of what was set by itself; as long as the settings have it, none was set by hand.'
} as const;

interface Marked {
  setByItself: string | null;
}

const nameOf = (schema: SettingsSchema, settings: object): string =>
  hashOf(
    touchedSettings(schema, settings, ['enabled', SET_BY_ITSELF]).map((name) => [
      name,
      (settings as Record<string, unknown>)[name]
    ])
  );

/** Settings with the mark that they were set by itself. */
export const markedByItself = <S extends object>(schema: SettingsSchema, settings: S): S & Marked => ({
  ...settings,
  setByItself: nameOf(schema, settings)
});

export const isByItself = (schema: SettingsSchema, settings: Marked): boolean =>
  settings.setByItself !== null && settings.setByItself === nameOf(schema, settings);
