/** Where frames lie while another program has them. */
import { basename, join } from 'node:path';
import type { Context } from '../context.ts';

export const handOverFolder = ({ data }: Pick<Context, 'data'>): string => join(data, 'hand-over');

/** Where files are written before they are whole: what is written there is not watched. */
export const unfinishedHandOvers = ({ data }: Pick<Context, 'data'>): string =>
  join(data, 'hand-over', '.unfinished');

/** The note that lies beside a file. */
export const noteOf = (file: string): string => file.replace(/\.[^.]+$/, '.json');

/** Whether a name in the folder can be that of a picture that was handed over. */
export const isHandedFile = (path: string): boolean => /\.tiff?$/i.test(basename(path));
