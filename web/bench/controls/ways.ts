/** The four ways of the arrow keys: by how much across and down, in words, and the key. */
export const WAYS = [
  [1, 0, 'right', 'ArrowRight'],
  [-1, 0, 'left', 'ArrowLeft'],
  [0, -1, 'up', 'ArrowUp'],
  [0, 1, 'down', 'ArrowDown']
] as const;
