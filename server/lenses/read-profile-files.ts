/** Reads files of lens profiles: JSON documents of our own, and open XML calibration data, any number at once. */
import type { LensProfile } from '../../core/optics/profile.ts';
import { UserError } from '../user-error.ts';
import { type Skipped, convertCalibration } from './profiles-from-calibration.ts';
import { type CalibrationData, MOST_XML, readCalibrationXml } from './read-calibration-xml.ts';
import { soundProfile } from './sound-profile.ts';

interface GivenFile {
  name: string;
  text: string;
}

export interface ReadProfiles {
  /** Files that were read, and those that were not, with the reason. */
  files: number;
  failed: { file: string; why: string }[];
  /** Profiles of our own documents, and those that calibration data give with the bodies it knows. */
  own: LensProfile[];
  profiles: LensProfile[];
  bodies: ReturnType<typeof convertCalibration>['bodies'];
  /** Records and parts of records that were left out, with the reason. */
  skipped: Skipped[];
}

/** Most files at once: the largest collection known has some seventy. */
const MOST_FILES = 2000;

function filesIn(text: string): GivenFile[] {
  const refuse = (): never => {
    throw new UserError('Choose profiles (JSON) or calibration data (XML) to import.');
  };
  let request: unknown;
  try {
    request = JSON.parse(text);
  } catch {
    refuse();
  }
  const files: unknown = (request as { files?: unknown } | null)?.files;
  if (!Array.isArray(files) || files.length === 0) return refuse();
  if (files.length > MOST_FILES)
    throw new UserError(
      `These are ${files.length} files; at most ${MOST_FILES} are read at once. Split them.`
    );
  const isText = (value: unknown): boolean => typeof value === 'string' && value.isWellFormed();
  return (files as (Partial<GivenFile> | null)[]).every((file) => isText(file?.name) && isText(file?.text))
    ? (files as GivenFile[])
    : refuse();
}

function documentsIn({ name, text }: GivenFile): unknown[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new UserError(`${name} is not JSON: ${(error as Error).message}.`);
  }
  return Array.isArray(value) ? value : [value];
}

/** `text`: { files: [{ name, text }] } as JSON. All that can be read is; nothing of a file that fails is kept. */
export function readProfileFiles(text: string): ReadProfiles {
  const failed: ReadProfiles['failed'] = [];
  const calibrations: CalibrationData[] = [];
  const own: LensProfile[] = [];
  let files = 0;
  for (const given of filesIn(text)) {
    // No text holds them, and the database takes none.
    const file = { name: given.name.replaceAll('\0', ''), text: given.text.replaceAll('\0', '') };
    const markup = file.text.replace(/^\uFEFF/, '');
    try {
      if (file.text.length > MOST_XML) throw new UserError(`${file.name}: files of at most 20 MB are read.`);
      if (/\.json$/i.test(file.name) || /^\s*[[{]/.test(file.text))
        own.push(...documentsIn(file).map(soundProfile));
      else if (/^\s*</.test(markup)) calibrations.push(readCalibrationXml(markup, file.name));
      else throw new UserError(`${file.name} is neither a profile (JSON) nor calibration data (XML).`);
      files++;
    } catch (error) {
      if (!(error instanceof UserError)) throw error;
      failed.push({ file: file.name, why: error.message });
    }
  }
  return { files, failed, own, ...convertCalibration(calibrations) };
}
