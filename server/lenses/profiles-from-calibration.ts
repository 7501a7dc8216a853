/** Records of open XML calibration data as lens profiles and camera bodies, with what had to be left out and why. */
import { FULL_FRAME_HALF_DIAGONAL } from '../../core/optics/focal-length.ts';
import { abc, fifthOrder, lateralCubic, thirdOrder } from '../../core/optics/calibration-models.ts';
import type { LensProjection } from '../../core/optics/lens-projection.ts';
import { foldRadius } from '../../core/optics/lens-model.ts';
import type { DistortionNode, FalloffNode, LateralNode, LensProfile } from '../../core/optics/profile.ts';
import type { CalibrationData, CalibrationElement, LensRecord } from './read-calibration-xml.ts';

export interface CameraBody {
  maker: string;
  model: string;
  /** Mounts of the lenses it takes. */
  mounts: string[];
  sensorHalfDiagonal: number;
}

export interface Skipped {
  what: string;
  why: string;
}

export interface ConvertedCalibration {
  profiles: LensProfile[];
  bodies: CameraBody[];
  skipped: Skipped[];
}

const PROJECTIONS: Record<string, LensProjection> = {
  rectilinear: 'rectilinear',
  fisheye: 'equidistant',
  equisolid: 'equisolid',
  stereographic: 'stereographic',
  orthographic: 'orthographic',
  fisheye_thoby: 'sine-fitted'
};

export function slug(...parts: string[]): string {
  const text = parts
    .join(' ')
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return text.slice(0, 70) || 'lens';
}

/** Figures of an element; missing ones are 0, senseless ones make the element useless. */
function figures({ attributes }: CalibrationElement, names: readonly string[], absent = 0): number[] | null {
  const values = names.map((name) => (attributes[name] === undefined ? absent : Number(attributes[name])));
  return values.every((value) => Number.isFinite(value) && Math.abs(value) < 50) ? values : null;
}

/** Of several records for one focal length the last is taken: they are added as they are measured better. */
function lastOfEach<T extends { focalLength: number }>(nodes: readonly T[]): T[] {
  return [...new Map(nodes.map((node) => [node.focalLength, node])).values()];
}

function distortionOf(element: CalibrationElement, aspect: number): number[] | null | 'unknown' {
  const model = element.attributes.model;
  if (model === 'poly3') {
    const k = figures(element, ['k1']);
    return k && thirdOrder(k[0], aspect);
  }
  if (model === 'poly5') {
    const k = figures(element, ['k1', 'k2']);
    return k && fifthOrder(k[0], k[1], aspect);
  }
  if (model === 'ptlens') {
    const k = figures(element, ['a', 'b', 'c']);
    return k && abc(k[0], k[1], k[2], aspect);
  }
  return 'unknown';
}

function lateralOf(
  element: CalibrationElement,
  aspect: number
): Omit<LateralNode, 'focalLength'> | null | 'unknown' {
  const model = element.attributes.model;
  if (model === 'linear') {
    const k = figures(element, ['kr', 'kb'], 1);
    return k && { red: [k[0] - 1], blue: [k[1] - 1] };
  }
  if (model === 'poly3') {
    const b = figures(element, ['br', 'cr', 'bb', 'cb']);
    const v = figures(element, ['vr', 'vb'], 1);
    return (
      b && v && { red: lateralCubic(b[0], b[1], v[0], aspect), blue: lateralCubic(b[2], b[3], v[1], aspect) }
    );
  }
  return 'unknown';
}

function convertLens(
  record: LensRecord,
  bodies: readonly string[],
  skipped: Skipped[]
): Omit<LensProfile, 'id'> | null {
  const what = `${record.maker} ${record.model}`.trim();
  const skip = (why: string): null => {
    skipped.push({ what, why });
    return null;
  };
  const projection = PROJECTIONS[record.type];
  if (record.model === '') return skip('it has no name');
  if (!projection)
    return skip(`its projection "${record.type}" is not one that a flat picture can be made of`);
  if (!(record.cropFactor > 0.1 && record.cropFactor < 30)) return skip('its crop factor makes no sense');
  const distortion: DistortionNode[] = [];
  const lateral: LateralNode[] = [];
  const falloff: FalloffNode[] = [];
  const real = new Map<number, number>();
  const unknown = new Set<string>();
  for (const element of record.calibration) {
    const focalLength = Number(element.attributes.focal);
    if (!(focalLength > 0 && focalLength < 5000)) continue;
    if (element.name === 'real-focal-length') {
      const value = Number(element.attributes['real-focal']);
      if (value > 0) real.set(focalLength, value);
    } else if (element.name === 'distortion') {
      const terms = distortionOf(element, record.aspectRatio);
      if (terms === 'unknown') unknown.add(`distortion model "${element.attributes.model}"`);
      else if (terms) {
        const own = Number(element.attributes['real-focal']);
        distortion.push({ focalLength, terms, ...(own > 0 ? { realFocalLength: own } : {}) });
      }
    } else if (element.name === 'tca') {
      const sizes = lateralOf(element, record.aspectRatio);
      if (sizes === 'unknown') unknown.add(`lateral model "${element.attributes.model}"`);
      else if (sizes) lateral.push({ focalLength, ...sizes });
    } else if (element.name === 'vignetting') {
      const k = figures(element, ['k1', 'k2', 'k3']);
      const aperture = Number(element.attributes.aperture);
      const distance = Number(element.attributes.distance);
      if (element.attributes.model !== 'pa') unknown.add(`falloff model "${element.attributes.model}"`);
      else if (k)
        falloff.push({
          focalLength,
          terms: k,
          ...(aperture > 0 && aperture <= 128 ? { aperture } : {}),
          ...(distance > 0 ? { distance } : {})
        });
    }
  }
  for (const name of unknown) skipped.push({ what, why: `its ${name} is not known; the rest was read` });
  if (distortion.length + lateral.length + falloff.length === 0) return skip('it holds no figures');
  const sound = lastOfEach(distortion).filter((node) => {
    const radius = foldRadius({ terms: node.terms });
    if (radius === null) return true;
    const where = `at ${(radius * 100).toFixed(0)} % of the way to the corner`;
    skipped.push({
      what,
      why: `its distortion at ${node.focalLength} mm folds back ${where}; the rest was read`
    });
    return false;
  });
  if (sound.length + lateral.length + falloff.length === 0) return null;
  for (const node of sound) node.realFocalLength ??= real.get(node.focalLength);
  const profile: Omit<LensProfile, 'id'> = {
    maker: record.maker,
    lens: record.model,
    mounts: [...record.mounts],
    bodies: [...bodies],
    sensorHalfDiagonal: Number((FULL_FRAME_HALF_DIAGONAL / record.cropFactor).toFixed(4)),
    projection,
    distortion: sound.map(({ realFocalLength, ...node }) =>
      realFocalLength ? { ...node, realFocalLength } : node
    ),
    lateral: lastOfEach(lateral),
    falloff,
    softness: []
  };
  return profile;
}

/** Mounts in small letters belong to cameras with the lens built in. */
const builtIn = (mount: string): boolean => /^[a-z]/.test(mount);

export function convertCalibration(files: readonly CalibrationData[]): ConvertedCalibration {
  const skipped: Skipped[] = [];
  const compatible = new Map<string, string[]>();
  for (const file of files) for (const [name, others] of file.mounts) compatible.set(name, others);
  const cameras = files.flatMap((file) => file.cameras);
  const bodies = cameras.flatMap((camera): CameraBody[] => {
    if (camera.model === '' || !(camera.cropFactor > 0.1 && camera.cropFactor < 30)) {
      skipped.push({ what: `${camera.maker} ${camera.model}`.trim(), why: 'its crop factor makes no sense' });
      return [];
    }
    return [
      {
        maker: camera.maker,
        model: camera.model,
        mounts: [camera.mount, ...(compatible.get(camera.mount) ?? [])],
        sensorHalfDiagonal: Number((FULL_FRAME_HALF_DIAGONAL / camera.cropFactor).toFixed(4))
      }
    ];
  });
  const profiles: LensProfile[] = [];
  const taken = new Set<string>();
  for (const record of files.flatMap((file) => file.lenses)) {
    const own = record.mounts.filter(builtIn);
    const models = cameras.filter((camera) => own.includes(camera.mount)).map((camera) => camera.model);
    const converted = convertLens(record, [...new Set(models)].slice(0, 100), skipped);
    if (!converted) continue;
    const base = slug(
      record.maker,
      record.model.replace(new RegExp(`^${record.maker.replace(/\W/g, '.')}\\s+`, 'i'), '')
    );
    let id = base;
    for (let n = 2; taken.has(id); n++) id = `${base}-${n}`;
    taken.add(id);
    profiles.push({ ...converted, id });
  }
  return { profiles, bodies, skipped };
}
