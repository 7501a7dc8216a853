/**
 * The command line: renders and inspects files without database or browser, and carries jobs from one installation to another.
 * What a command needs is loaded for it alone.
 */
import { createReader } from '../decode/reader.ts';
import { UserError } from '../user-error.ts';
import { UsageError, WriteError } from './files.ts';

export const HELP = `line-true: geometrically true pictures from the command line

  line-true render PHOTO --out PICTURE [options]
      Renders a photograph. The ending of PICTURE says what: .jpg, .jpeg, .png, .tif or .tiff.
      --recipe FILE     recipe (JSON); without one the picture is rendered neutrally
      --report FILE     also write the report with the readings (JSON)
      --profile FILE    a lens profile (JSON) to be known beside those that come along; may be repeated
      --look FILE       a look (.cube); one alone is laid over the picture, of several the recipe names one by its
                        file's name without ending; may be repeated
      --space SPACE     colours of the picture: srgb (default), display-p3, oprgb or rec2020
      --quality N       JPEG quality, 1 to 100 (default 92)
      --long-edge N     longest edge in pixels (default: full size; never enlarges)
      --ppi N           pixels per inch written to the file (default 300)
      --depth 8|16      bits per channel of PNG and TIFF (default 16 for TIFF, 8 for PNG)
      --straighten      straighten the lens by the edges of the picture, where they tell it, and even its
                        colour edges where nothing else is known of them
      --true-up MODE    find plumb and level lines and true up from them: verticals, level, both or front
      --auto WHAT       set by itself: tone, colour, or tone,colour
                        What was found is printed, and stands in the report.
      --house-settings FILE  house settings (JSON, as the app exports them), whose changes are laid over all that
      --keep-position   write the place where the picture was taken, if known
  line-true deliver FOLDER --deliverables FILE --out DIR [options]
      Makes every deliverable of every photograph in a folder. The recipe of photo.dng is photo.json beside it.
      --deliverables FILE  deliverables (JSON), as the app exports them
      --profile FILE       a lens profile (JSON) to be known beside those that come along; may be repeated
      --look FILE          a look (.cube), as above; may be repeated
      --straighten, --true-up, --auto, --house-settings  as above, for every photograph
      --json               one line of JSON for each picture in place of words
      The manifest (CSV and JSON) goes to DIR as well. Pictures that fail are named; the others are made.
  line-true inspect PHOTO [options]
      Prints what the file is, as JSON.
      --readings        and how plumb, level and straight it is, what fringe is left, and so on
      --recipe FILE     the readings of the picture by a recipe (JSON; default: as shot)
  line-true archive JOB --out FILE [options]
      Writes a job of a running Line True, named by its name or id, as one file (ZIP).
      --at ADDRESS          where it runs (default http://127.0.0.1:5400)
      --password-file FILE  a file with its password, where it has one
  line-true take-in FILE [options]
      Takes such a file in as a job of a running Line True.
      --at, --password-file  as above
  line-true --help

A recipe that the app wrote for the command line carries its look. A recipe with marks and without angles is trued up from its marks.

Exit codes: 0 done; 1 the photograph, recipe or profile cannot be used; 2 the call is wrong; 3 the result
cannot be written; 70 a fault in Line True itself.
`;

/** A reader starts while the rest is loaded. */
async function renderOne(args: string[]): Promise<void> {
  const reader = createReader();
  reader.begin();
  try {
    await (await import('./render.ts')).render(args, reader);
  } finally {
    reader.close();
  }
}

/** Runs a call and returns the exit code. */
export async function main(args: string[]): Promise<number> {
  const [command, ...rest] = args;
  try {
    // Also after a command, and whatever stands about it.
    if (command === 'help' || args.includes('--help') || args.includes('-h')) process.stdout.write(HELP);
    else if (command === 'render') await renderOne(rest);
    else if (command === 'deliver') await (await import('./deliver.ts')).deliver(rest);
    else if (command === 'archive') await (await import('./archive.ts')).archive(rest);
    else if (command === 'take-in') await (await import('./archive.ts')).takeIn(rest);
    else if (command === 'inspect') await (await import('./inspect.ts')).inspect(rest);
    else
      throw new UsageError(
        command
          ? `There is no command "${command}".`
          : 'Say what to do: render, deliver, inspect, archive or take-in.'
      );
    return 0;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    process.stderr.write(`line-true: ${message}\n`);
    const code = (error as { code?: string }).code ?? '';
    if (error instanceof UsageError || code.startsWith('ERR_PARSE_ARGS')) {
      process.stderr.write('See line-true --help.\n');
      return 2;
    }
    if (error instanceof UserError) return 1;
    if (error instanceof WriteError) return 3;
    return 70;
  }
}

process.exitCode = await main(process.argv.slice(2));
