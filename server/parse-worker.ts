/** What a thread of its own parses: files from elsewhere, whose length says nothing of how long that takes. */
import { CubeError, parseCube } from '../core/steps/colour/looks/cube-file.ts';
import type { Look, LookSpace } from '../core/steps/colour/looks/look.ts';
import { UserError } from './user-error.ts';
import type { Parsed } from './parse/parser.ts';
import { type ReadProfiles, readProfileFiles } from './lenses/read-profile-files.ts';

function refusing<T>(work: () => T): Parsed<T> {
  try {
    return { read: work() };
  } catch (error) {
    if (error instanceof UserError || error instanceof CubeError) return { refused: error.message };
    throw error;
  }
}

export const cube = ({ text, name, space }: { text: string; name: string; space: LookSpace }): Parsed<Look> =>
  refusing(() => parseCube(text, name, space));

export const profiles = ({ text }: { text: string }): Parsed<ReadProfiles> =>
  refusing(() => readProfileFiles(text));
