/**
 * Reads open XML calibration data: lens, camera and mount records. A streaming, strict parser that expands no entities but
 * XML's own five, so that a hostile file can cost no more than its own length.
 */
import { SaxesParser } from 'saxes';
import { UserError } from '../user-error.ts';

export interface CalibrationElement {
  name: string;
  attributes: Record<string, string>;
}

export interface LensRecord {
  maker: string;
  model: string;
  mounts: string[];
  type: string;
  cropFactor: number;
  aspectRatio: number;
  calibration: CalibrationElement[];
}

export interface CameraRecord {
  maker: string;
  model: string;
  mount: string;
  cropFactor: number;
}

export interface CalibrationData {
  lenses: LensRecord[];
  cameras: CameraRecord[];
  /** Mounts that a mount also takes lenses of. */
  mounts: Map<string, string[]>;
}

/** Largest file read, in characters: the largest known is under a megabyte. */
export const MOST_XML = 20 * 1024 * 1024;
const MOST_RECORDS = 50000;
const MOST_DEPTH = 40;

interface Draft {
  kind: 'lens' | 'camera' | 'mount';
  texts: Record<string, string[]>;
  calibration: CalibrationElement[];
}

/** "3:2" or "1.5". */
function ratio(text: string | undefined): number {
  if (!text) return 1.5;
  const [a, b = '1'] = text.split(':');
  const value = Number(a) / Number(b);
  return value > 0.2 && value < 10 ? (value < 1 ? 1 / value : value) : 1.5;
}

function isRecord(name: string): name is Draft['kind'] {
  return name === 'lens' || name === 'camera' || name === 'mount';
}

export function readCalibrationXml(text: string, file: string): CalibrationData {
  const refuse = (why: string): never => {
    throw new UserError(`${file}: ${why}`);
  };
  if (text.length > MOST_XML)
    refuse(`it is ${Math.round(text.length / 1048576)} MB long; calibration data of at most 20 MB is read.`);
  const data: CalibrationData = { lenses: [], cameras: [], mounts: new Map() };
  const path: string[] = [];
  let draft: Draft | null = null;
  let content = '';
  let language = '';
  let records = 0;
  const parser = new SaxesParser({ xmlns: false, position: true });
  parser.on('error', (error) => refuse(`it is not well-formed XML (${error.message.slice(0, 120)}).`));
  parser.on('doctype', (doctype) => {
    if (doctype.includes('['))
      refuse('it declares entities of its own, which calibration data has no use for.');
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (path.length === 0 && name !== 'lensdatabase')
      refuse(`its outermost element is <${name.slice(0, 40)}>: this is no calibration data.`);
    if (path.length >= MOST_DEPTH) refuse('its elements are nested too deeply.');
    // "mount" is both a record of its own and a part of others.
    if (path.length === 1 && isRecord(name)) {
      if (++records > MOST_RECORDS) refuse(`it holds more than ${MOST_RECORDS} records.`);
      draft = { kind: name, texts: {}, calibration: [] };
    } else if (draft && path[path.length - 1] === 'calibration') {
      draft.calibration.push({ name, attributes: attributes as Record<string, string> });
    }
    content = '';
    language = (attributes as Record<string, string>).lang ?? '';
    path.push(name);
  });
  parser.on('text', (part) => (content += part));
  parser.on('closetag', ({ name }) => {
    path.pop();
    if (!draft) return;
    if (path.length === 1 && name === draft.kind) {
      finish(draft, data);
      draft = null;
    } else if (path.length === 2) {
      // Names in other languages do not tell lenses apart: the plain one does.
      const value = content.trim().slice(0, 200);
      if (value !== '' && (language === '' || name !== 'model')) (draft.texts[name] ??= []).push(value);
    }
    content = '';
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof UserError) throw error;
    refuse(`it is not well-formed XML (${(error as Error).message.slice(0, 120)}).`);
  }
  if (records === 0) refuse('it holds no lens, camera or mount.');
  return data;
}

function finish({ kind, texts, calibration }: Draft, data: CalibrationData): void {
  const first = (name: string): string => texts[name]?.[0] ?? '';
  if (kind === 'mount') {
    data.mounts.set(first('name'), texts.compat ?? []);
  } else if (kind === 'camera') {
    const cropFactor = Number(first('cropfactor'));
    data.cameras.push({ maker: first('maker'), model: first('model'), mount: first('mount'), cropFactor });
  } else {
    data.lenses.push({
      maker: first('maker'),
      model: first('model'),
      mounts: texts.mount ?? [],
      type: first('type') || 'rectilinear',
      cropFactor: Number(first('cropfactor') || 1),
      aspectRatio: ratio(first('aspect-ratio')),
      calibration
    });
  }
}
