/** The loader of resources on the bench: one worker makes each value, all have it where they share memory. */
import { MissingResource, type ResourceLoader, createResourceLoader } from '$core/render/load-resources.ts';
import type { Crew } from './crew.ts';

/** The bytes below a path of the app's `api/`; null where they cannot be had. */
export type FetchBytes = (path: string) => Promise<Uint8Array<ArrayBuffer> | null>;

/** What a frame's resources are made of: an opening of it, and the levels that source stages changed, by their key. */
export const frameName = (opening: number, developed: string | null): string =>
  `${opening} ${developed ?? ''}`;

const developedOf = (frame: string): string | null => frame.slice(frame.indexOf(' ') + 1) || null;

let numbers = 0;

export const crewResources = (crew: Crew, fetchBytes: FetchBytes): ResourceLoader =>
  createResourceLoader({
    async make({ ask, key, frame }, resource, reads) {
      const path = resource.stored(ask.data);
      const bytes = path === null ? null : await fetchBytes(path);
      if (path !== null && bytes === null) throw new MissingResource(resource);
      const developed = resource.of === 'frame' ? developedOf(frame) : null;
      return new Promise((resolve, reject) => {
        const wanted = { ask, key };
        const resources = reads.keys;
        const task = { kind: 'make', number: ++numbers, wanted, bytes, developed, resources } as const;
        crew.give(0, task, ({ value, said }) => {
          if (said !== '') return reject(new Error(said));
          // Without shared memory the value stays where it is, in the one worker there is.
          if (crew.shared)
            for (let other = 1; other < crew.count; other++) crew.tell(other, { kind: 'have', key, value });
          resolve(value ?? key);
        });
      });
    },
    giveBack: (key, _, { name }) => crew.tellAll({ kind: 'drop', key, resource: name })
  });
