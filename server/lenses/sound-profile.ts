import {
  type LensProfile,
  type PartialProfile,
  completeProfile,
  lensProfileSchema,
  profileFault
} from '../../core/optics/profile.ts';
import { UserError } from '../user-error.ts';
import { validator } from '../documents/validator.ts';

const validProfile = validator<PartialProfile>(lensProfileSchema, 'lens profile');

/** A profile from outside: valid in form and in sense, or a UserError that says what is wrong. */
export function soundProfile(value: unknown): LensProfile {
  const profile = completeProfile(validProfile(value));
  const fault = profileFault(profile);
  if (fault) throw new UserError(`${profile.lens}: ${fault}`);
  if (profile.distortion.length + profile.lateral.length + profile.falloff.length === 0 && !profile.gainMap)
    throw new UserError(
      `${profile.lens}: the profile corrects nothing. Give it distortion, lateral or falloff figures.`
    );
  return profile;
}
