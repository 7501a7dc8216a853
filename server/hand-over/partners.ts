/** Frames that came back of a frame that was handed over, or the one that a frame came back of. */
import type { Context } from '../context.ts';

export interface Partner {
  id: string;
  name: string;
  /** What it is to the frame that was asked about. */
  is: 'back' | 'handed';
}

export async function partnersOf({ db }: Context, frameId: string): Promise<Partner[]> {
  const { rows } = await db.query<Partner>(
    `select f.id, f.name, 'back' as is from hand_overs h join frames f on f.id = h.returned_id
       where h.frame_id = $1 and f.state = 'ready'
     union
     select f.id, f.name, 'handed' as is from hand_overs h join frames f on f.id = h.frame_id
       where h.returned_id = $1 and f.state = 'ready'
     order by name`,
    [frameId]
  );
  return rows;
}
