/** Facts of a frame in the words of the trade. */
import type { FrameFacts } from '$core/optics/frame-facts.ts';

export function shutterText(seconds: number | null): string | null {
  if (!seconds) return null;
  return seconds < 0.6 ? `1/${Math.round(1 / seconds)} s` : `${Number(seconds.toFixed(1))} s`;
}

export function exposureText(facts: FrameFacts): string {
  const parts = [
    facts.aperture && `f/${Number(facts.aperture.toFixed(1))}`,
    shutterText(facts.exposureTime),
    facts.iso && `ISO ${facts.iso}`
  ];
  return parts.filter(Boolean).join(' · ') || 'no exposure data';
}

export function cameraText({ make, model }: FrameFacts): string {
  if (!make && !model) return 'Camera not named';
  return model && make && model.toLowerCase().startsWith(make.toLowerCase())
    ? model
    : [make, model].filter(Boolean).join(' ');
}

export function lensText(facts: FrameFacts): string {
  const focal = facts.focalLength ? `${Number(facts.focalLength.toFixed(1))} mm` : null;
  return [facts.lens ?? 'Lens not named', focal && `at ${focal}`].filter(Boolean).join(' ');
}
