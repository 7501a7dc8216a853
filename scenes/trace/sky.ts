import { fractalNoise } from '../noise.ts';
import type { Colour } from './materials.ts';
import type { Light } from './scene.ts';

/** Radiance of the sky in a direction; with `detail`, clouds have shapes, else their mean. */
export function skyRadiance(
  light: Light,
  dx: number,
  dy: number,
  dz: number,
  out: Colour,
  detail: boolean
): void {
  const length = Math.hypot(dx, dy, dz);
  const up = Math.max(0, dy / length);
  const haze = (1 - up) ** 3;
  const toSun = Math.max(0, (dx * light.sun[0] + dy * light.sun[1] + dz * light.sun[2]) / length);
  const halo = 0.25 * toSun ** 8;
  let white = light.cloud * 0.5;
  if (detail && light.cloud > 0) {
    const k = 1.6 / (up + 0.12);
    const n = fractalNoise((dx / length) * k + 3.1, (dz / length) * k + 8.4, 5);
    white = Math.max(0, Math.min(1, (n - 0.78 + light.cloud * 0.45) * 4)) * Math.min(1, up * 5);
  }
  for (let c = 0; c < 3; c++) {
    const clear = light.zenith[c] * (1 - haze) + light.horizon[c] * haze + halo * light.sunColour[c] * 0.1;
    out[c] = clear * (1 - white) + light.horizon[c] * 1.15 * white;
  }
}
