/** How long frames that are being prepared will take, from how fast others became ready. */

export interface Pace {
  /** Begins anew whenever nothing was left. */
  started: number;
  /** Frames that became ready since. */
  done: number;
  left: number;
}

/** The pace after so many frames are left, at a time in milliseconds. */
export function followedPace(known: Pace | null, left: number, now: number): Pace | null {
  if (left === 0) return null;
  if (!known) return { started: now, done: 0, left };
  return { ...known, done: known.done + Math.max(0, known.left - left), left };
}

/** In words; without a time as long as none is known. */
export function paceText(pace: Pace | null, now: number): string {
  if (!pace) return '';
  const frames = `Preparing ${pace.left} ${pace.left === 1 ? 'frame' : 'frames'}`;
  if (pace.done === 0) return `${frames}…`;
  const seconds = ((now - pace.started) / 1000 / pace.done) * pace.left;
  const about = seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;
  return `${frames}, about ${about} left`;
}
