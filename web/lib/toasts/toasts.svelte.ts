/** What was done, told at the foot of the window for a while, with a way back where there is one. */

export interface Toast {
  key: number;
  text: string;
  /** Whether something went wrong. */
  trouble: boolean;
  /** Takes it back; returns what came of it. */
  undo?: () => Promise<string>;
}

/** Milliseconds that one is shown. */
export const SHOWN_FOR = 12_000;
/** More at once would cover the page. */
const MOST = 3;

let list = $state.raw<readonly Toast[]>([]);
let count = 0;

export const toasts = {
  get list() {
    return list;
  },
  tell(text: string, more: { undo?: Toast['undo']; trouble?: boolean } = {}): void {
    list = [...list, { key: count++, text, trouble: false, ...more }].slice(-MOST);
  },
  drop(key: number): void {
    list = list.filter((toast) => toast.key !== key);
  },
  /** Takes back what a toast tells of, and tells what came of it. */
  async undo({ key, undo }: Toast): Promise<void> {
    toasts.drop(key);
    try {
      toasts.tell(await undo!());
    } catch (reason) {
      toasts.tell((reason as Error).message, { trouble: true });
    }
  }
};
