/**
 * Keeps the resources that stages read: each is made once, lent to whoever draws, and given back when nothing reads it any
 * more. One loader serves the bench, where workers make and share the values, and exports, where the pool does.
 */
import { type Ask, type Resources, keyOf } from '../picture/tile/resource.ts';
import { hashOf } from '../settings/hash.ts';
import { type AnyResource, resourceOf } from './resources.ts';

/** What is asked for cannot be had: the look is gone, or its bytes do not come. */
export class MissingResource extends Error {
  constructor(readonly resource: AnyResource) {
    super(resource.missing);
  }
}

/** One value: what was asked for, and the frame that it is made of. */
export interface Wanted {
  ask: Ask;
  /** What the value is kept by: the same for whatever asks for the same of the same frame. */
  key: string;
  frame: string;
}

export interface ResourceMaker {
  /** Makes a value, of what `asked` names, and of what that reads; throws a MissingResource where its bytes cannot be had. */
  make(wanted: Wanted, asked: AnyResource, reads: Pick<Lease, 'values' | 'keys'>): Promise<unknown>;
  /** Nothing reads a value any more. */
  giveBack(key: string, value: unknown, resource: AnyResource): void;
}

/** Values that stay where they are until the lease is ended. */
export interface Lease {
  /** By the keys that stages look them up with. */
  values: Resources;
  /** What the values are kept by, for those who have them by their keys. */
  keys: readonly { ask: Ask; key: string }[];
  /** To be called once: what was lent may go. */
  end(): void;
}

export interface ResourceLoader {
  /**
   * All that is asked for, where it is there already; else null. `frame` names what resources of a frame are made of. `alike`: what is
   * much alike may stand in for what is not there.
   */
  lease(asks: readonly Ask[], frame: string, alike?: boolean): Lease | null;
  /** Has made what is asked for. Settles when it is there, or known to be missing; what is missing is not asked for again. */
  load(asks: readonly Ask[], frame: string): Promise<void>;
  /** Has made what is asked for, and lends it; without what is missing. */
  borrow(asks: readonly Ask[], frame: string): Promise<Lease>;
  /** Whether something was found to be missing. */
  isMissing(ask: Ask, frame: string): boolean;
  /** Gives back what is made of frames, at once or when its leases end; `all`: whatever there is. */
  forget(all?: boolean): void;
}

interface Kept {
  resource: AnyResource;
  frame: string;
  /** What it has in common with those that it can stand in for; null: with none. */
  alike: string | null;
  value: unknown;
  leases: number;
  forgotten: boolean;
}

/** Values of a resource that are kept though nothing reads them: going back and forth between two is quick. */
const SPARE = 1;
/** Sets of values that were of use together, as many as are drawn in turn: the sheet, what is beside it, a mask. */
const RECENT = 3;

export function createResourceLoader(maker: ResourceMaker): ResourceLoader {
  /** By their keys, those that were lent last at the end. */
  const kept = new Map<string, Kept>();
  const making = new Map<string, Promise<void>>();
  const missing = new Set<string>();
  /** Keys that are being loaded together, and those that were loaded or lent together last: none of them is spare. */
  const loading = new Set<ReadonlySet<string>>();
  let recent: ReadonlySet<string>[] = [];
  const isAwaited = (key: string): boolean => [...loading, ...recent].some((keys) => keys.has(key));
  function remember(keys: ReadonlySet<string>): void {
    if (keys.size < 2) return;
    const others = recent.filter(
      (known) => known.size !== keys.size || [...keys].some((key) => !known.has(key))
    );
    recent = [keys, ...others].slice(0, RECENT);
  }
  /** Counts the forgettings: what was begun before one is of no use after it. */
  let era = 0;

  const wantedOf = (ask: Ask, frame: string): Wanted => ({
    ask,
    frame,
    key: resourceOf(ask).of === 'frame' ? `${keyOf(ask)} ${frame}` : keyOf(ask)
  });

  function giveBack(key: string, { value, resource }: Kept): void {
    kept.delete(key);
    maker.giveBack(key, value, resource);
  }

  /** Gives back what nothing reads: all that was forgotten, and of each resource all but the newest. */
  function tidy(): void {
    const spare = new Map<string, number>();
    for (const [key, each] of [...kept].reverse()) {
      if (each.leases > 0) continue;
      const before = spare.get(each.resource.name) ?? 0;
      if (each.forgotten || (before >= SPARE && !isAwaited(key))) giveBack(key, each);
      else spare.set(each.resource.name, before + 1);
    }
  }

  const alikeOf = ({ data }: Ask, resource: AnyResource): string | null =>
    resource.alike ? `${resource.name} ${hashOf(resource.alike(data))}` : null;

  /** The value of an ask, or the newest that is much alike. */
  function find(ask: Ask, frame: string, alike: boolean): { ask: Ask; key: string; each: Kept } | null {
    const { key } = wantedOf(ask, frame);
    const own = kept.get(key);
    if (own && !own.forgotten) return { ask, key, each: own };
    const common = alike && alikeOf(ask, resourceOf(ask));
    if (!common) return null;
    const like = [...kept].findLast(
      ([, each]) => each.alike === common && each.frame === frame && !each.forgotten
    );
    return like ? { ask, key: like[0], each: like[1] } : null;
  }

  async function make(wanted: Wanted): Promise<void> {
    const begun = era;
    const resource = resourceOf(wanted.ask);
    const asks = resource.reads?.(wanted.ask.data) ?? [];
    let reads: Lease | null = null;
    try {
      reads = asks.length > 0 ? await loader.borrow(asks, wanted.frame) : loader.lease([], wanted.frame)!;
      const value = await maker.make(wanted, resource, reads);
      kept.set(wanted.key, {
        resource,
        frame: wanted.frame,
        alike: alikeOf(wanted.ask, resource),
        value,
        leases: 0,
        forgotten: begun !== era && resource.of === 'frame'
      });
      tidy();
    } catch (error) {
      if (!(error instanceof MissingResource)) throw error;
      missing.add(wanted.key);
    } finally {
      reads?.end();
      making.delete(wanted.key);
    }
  }

  const loader: ResourceLoader = {
    lease(asks, frame, alike = false) {
      const found = asks.flatMap((ask) => find(ask, frame, alike) ?? []);
      if (found.length < asks.length) return null;
      for (const { key, each } of found) {
        each.leases++;
        kept.delete(key);
        kept.set(key, each);
      }
      remember(new Set(found.map(({ key }) => key)));
      let ended = false;
      return {
        values: new Map(found.map(({ ask, each }) => [keyOf(ask), each.value])),
        keys: found.map(({ ask, key }) => ({ ask, key })),
        end() {
          if (ended) return;
          ended = true;
          for (const { each } of found) each.leases--;
          tidy();
        }
      };
    },
    async load(asks, frame) {
      const keys = new Set(asks.map((ask) => wantedOf(ask, frame).key));
      loading.add(keys);
      await Promise.all(
        asks.map(async (ask) => {
          const wanted = wantedOf(ask, frame);
          const there = kept.get(wanted.key);
          // What was forgotten and is still lent is as good as ever.
          if (there) there.forgotten = false;
          if (there || missing.has(wanted.key)) return;
          const begun = making.get(wanted.key) ?? make(wanted);
          making.set(wanted.key, begun);
          await begun;
        })
      ).finally(() => {
        loading.delete(keys);
        remember(keys);
      });
    },
    async borrow(asks, frame) {
      for (;;) {
        await loader.load(asks, frame);
        const there = asks.filter((ask) => !loader.isMissing(ask, frame));
        const lease = loader.lease(there, frame);
        // Between loading and lending others may have had theirs made: then it is made again.
        if (lease) return lease;
      }
    },
    isMissing: (ask, frame) => missing.has(wantedOf(ask, frame).key),
    forget(all = false) {
      era++;
      missing.clear();
      recent = [];
      for (const each of kept.values()) each.forgotten ||= all || each.resource.of === 'frame';
      tidy();
    }
  };
  return loader;
}
