/** Where frames lie while another program has them. */
import { join } from 'node:path';
import type { Context } from '../context.ts';

export const handOverFolder = ({ data }: Pick<Context, 'data'>): string => join(data, 'hand-over');

/** Where files are written before they are whole. */
export const unfinishedHandOvers = ({ data }: Pick<Context, 'data'>): string =>
  join(data, 'hand-over', '.unfinished');

/** The note that lies beside a file. */
export const noteOf = (file: string): string => file.replace(/\.[^.]+$/, '.json');
