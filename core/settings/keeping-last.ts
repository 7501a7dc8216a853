/** Makes something of plain data, and keeps what it made last: for the other tiles of a picture, and while other settings move. */
export function keepingLast<D, T>(make: (data: D) => T): (data: D) => T {
  let last: { key: string; made: T } | null = null;
  return (data) => {
    const key = JSON.stringify(data);
    if (last?.key !== key) last = { key, made: make(data) };
    return last.made;
  };
}
