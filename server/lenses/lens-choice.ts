/** Which profiles a frame can have: what was chosen by hand for the same lens before, what matches, and what is named. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { LensProfile } from '../../core/optics/profile.ts';
import {
  type LensFacts,
  MATCHES,
  type ProfileSummary,
  type RankedProfile,
  rankProfiles
} from '../../core/optics/rank-profiles.ts';
import type { LensChoice } from '../../core/steps/lens/frame-optics.ts';
import type { Context } from '../context.ts';
import type { ProfileRow, Queryable } from './catalogue.ts';

/** How a body and a lens text are remembered: the same camera and lens always give the same words. */
export function choiceKey(facts: Pick<LensFacts, 'make' | 'model' | 'lens'>): {
  body: string;
  lens: string;
} {
  const plain = (text: string | null | undefined): string =>
    (text ?? '').toLowerCase().replace(/\s+/g, ' ').trim();
  return { body: plain([facts.make, facts.model].filter(Boolean).join(' ')), lens: plain(facts.lens) };
}

export interface FrameChoice extends LensChoice {
  /** Candidates, best first, with what speaks against them. */
  ranked: RankedProfile[];
  /** True when the profile that applies by itself was chosen by hand for this body and lens before. */
  remembered: boolean;
}

export interface Chooser {
  /** Id of the profile that applies by itself, with the candidates. */
  rank(facts: LensFacts): { auto: string | null; remembered: boolean; ranked: RankedProfile[] };
  /** The same with documents, including that of a profile named by id. */
  choose(facts: FrameFacts, named: string): Promise<FrameChoice>;
}

/** Reads what matching needs once, for any number of frames. */
export async function openChooser({ db }: { db: Queryable }): Promise<Chooser> {
  // One after another: it may be one connection.
  const profiles = await db.query<Omit<ProfileRow, 'origin' | 'used' | 'corrects' | 'projection'>>(
    `select id, maker, lens, mounts, bodies, sensor_half_diagonal, focal_min, focal_max from lens_profiles
     order by array_position(array['measured', 'shipped', 'imported'], origin), id`
  );
  const bodies = await db.query<{ maker: string; model: string; mounts: string[] }>(
    'select maker, model, mounts from camera_bodies'
  );
  const choices = await db.query<{ body: string; lens: string; profile_id: string }>(
    'select body, lens, profile_id from lens_choices'
  );
  const summaries: ProfileSummary[] = profiles.rows.map((row) => ({
    ...row,
    sensorHalfDiagonal: row.sensor_half_diagonal,
    focals: row.focal_min !== null && row.focal_max !== null ? [row.focal_min, row.focal_max] : null
  }));
  const mountsOf = new Map(bodies.rows.map((row) => [`${row.maker} ${row.model}`.toLowerCase(), row.mounts]));
  const rank: Chooser['rank'] = (facts) => {
    const body = `${facts.make ?? ''} ${facts.model ?? ''}`.toLowerCase();
    const ranked = rankProfiles(facts, summaries, mountsOf.get(body) ?? []);
    const key = choiceKey(facts);
    const chosen = choices.rows.find((row) => row.body === key.body && row.lens === key.lens);
    const best = ranked[0];
    return {
      auto: chosen?.profile_id ?? (best && best.score >= MATCHES ? best.id : null),
      remembered: chosen !== undefined,
      ranked
    };
  };
  return {
    rank,
    async choose(facts, named) {
      const { auto, remembered, ranked } = rank(facts);
      const ids = [...new Set([...(auto ? [auto] : []), ...ranked.map((candidate) => candidate.id), named])];
      const { rows } = await db.query<{ document: LensProfile }>(
        'select document from lens_profiles where id = any($1) order by array_position($1, id)',
        [ids]
      );
      const known = rows.map((row) => row.document);
      return { auto: known.find((profile) => profile.id === auto) ?? null, known, ranked, remembered };
    }
  };
}

/** Choice for one frame. */
export async function choiceFor(context: Context, facts: FrameFacts, named = 'auto'): Promise<FrameChoice> {
  return (await openChooser(context)).choose(facts, named);
}

/** Remembers a lens chosen by hand; null forgets it. */
export async function rememberChoice(
  context: Context,
  facts: Pick<FrameFacts, 'make' | 'model' | 'lens'>,
  profileId: string | null
): Promise<void> {
  const { body, lens } = choiceKey(facts);
  if (profileId === null)
    await context.db.query('delete from lens_choices where body = $1 and lens = $2', [body, lens]);
  else
    await context.db.query(
      `insert into lens_choices (body, lens, profile_id) values ($1, $2, $3)
       on conflict (body, lens) do update set profile_id = excluded.profile_id`,
      [body, lens, profileId]
    );
}
