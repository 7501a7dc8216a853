/** Saves the recipe as it changes, and tells when another window saved a newer one. */
import { completeRecipe } from '$core/recipe/recipe.ts';
import type { PartialRecipe, Recipe } from '$core/recipe/recipe.ts';
import { CallError, call } from '$lib/call.ts';

const WAIT = 250;
const RETRY = 3000;

/** What is told of the states that the recipe went through, and that it is kept. */
export interface KeptStates {
  since(): Promise<{ change: object; kept: () => void }>;
}

export function createSaver(frameId: string, startVersion: number, history: KeptStates) {
  let version = startVersion;
  let wanted: Recipe | null = null;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let running: Promise<void> | null = null;
  const status = $state({
    state: 'saved' as 'saved' | 'saving' | 'offline' | 'conflict' | 'refused',
    message: '',
    /** What the other window saved, while there is a conflict. */
    theirs: null as Recipe | null
  });

  async function run(): Promise<void> {
    while (wanted && status.state !== 'conflict') {
      const recipe = wanted;
      wanted = null;
      try {
        const { change, kept } = await history.since();
        const answer = await call<{ version: number }>(`/api/frames/${frameId}/recipe`, {
          method: 'PUT',
          body: { version, recipe, history: change }
        });
        version = answer.version;
        kept();
        if (!wanted) status.state = 'saved';
      } catch (error) {
        wanted ??= recipe;
        const refused = error instanceof CallError ? error : null;
        if (refused?.status === 409) {
          const body = refused.body as { version: number; recipe: PartialRecipe };
          version = body.version;
          status.theirs = completeRecipe(body.recipe);
          status.state = 'conflict';
        } else if (refused && refused.status >= 400 && refused.status < 500) {
          status.state = 'refused';
          status.message = refused.message;
          wanted = null;
        } else {
          status.state = 'offline';
          timer = setTimeout(start, RETRY);
        }
        return;
      }
    }
  }

  function start(): void {
    timer = null;
    if (running) return;
    running = run().finally(() => (running = null));
  }

  return {
    status,
    save(recipe: Recipe): void {
      wanted = recipe;
      if (status.state === 'conflict') return;
      status.state = 'saving';
      if (timer) clearTimeout(timer);
      timer = setTimeout(start, WAIT);
    },
    /** Everything on the server: before leaving, or before an export. */
    async flush(): Promise<void> {
      if (timer) clearTimeout(timer);
      while (running) await running;
      start();
      while (running) await running;
    },
    /** Ends a conflict: keeps this window's recipe, or takes the other's. */
    resolve(keep: 'mine' | 'theirs'): Recipe | null {
      const { theirs } = status;
      status.theirs = null;
      status.state = 'saved';
      if (keep === 'theirs') {
        wanted = null;
        return theirs;
      }
      status.state = 'saving';
      start();
      return null;
    }
  };
}
