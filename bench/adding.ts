/**
 * npm run bench:adding: 60 raw files of 24 MP dropped at once, two being sent at a time as by the page: when all have a
 * picture, when all can be opened, whether in order, and the memory of the app's process.
 */
import { readFileSync } from 'node:fs';
import { pause, rawFile, say, startOwnApp } from './running-app.ts';

const COUNT = Number(process.argv[2] ?? 60);
const app = await startOwnApp(4195);
interface Card {
  early: boolean;
  frame: { name: string; state: string };
}

/** The job's cards as a page is first told of them. */
async function cardsOf(job: string): Promise<Card[]> {
  const heard = new AbortController();
  const { body } = await fetch(`${app.address}/api/jobs/${job}/events`, { signal: heard.signal });
  let text = '';
  const decoder = new TextDecoder();
  for await (const part of body as unknown as AsyncIterable<Uint8Array>) {
    text += decoder.decode(part, { stream: true });
    if (text.includes('\n\n')) break;
  }
  heard.abort();
  const [, data] = /^data: (.*)$/m.exec(text)!;
  return (JSON.parse(data) as { cards: Card[] }).cards;
}

try {
  const { id: job } = await app.post<{ id: string }>('/api/jobs', JSON.stringify({ name: 'Adding' }));
  rawFile('24 MP');
  const started = performance.now();
  const seconds = (): number => (performance.now() - started) / 1000;
  let next = 0;
  const send = async (): Promise<void> => {
    while (next < COUNT) {
      const i = next++;
      const name = `F_${String(i).padStart(3, '0')}.dng`;
      const bytes = rawFile('24 MP', i) as Uint8Array<ArrayBuffer>;
      await app.post(
        `/api/jobs/${job}/frames?name=${name}${next < COUNT ? '&more' : ''}`,
        bytes,
        'application/octet-stream'
      );
    }
  };
  const sending = Promise.all([send(), send()]).then(() => say(`all sent after ${seconds().toFixed(1)} s`));
  const order: string[] = [];
  let [pictures, most, shown] = [0, 0, false];
  for (;;) {
    await pause(300);
    const cards = await cardsOf(job);
    for (const { frame } of cards)
      if (frame.state === 'ready' && !order.includes(frame.name)) order.push(frame.name);
    pictures = cards.filter(({ early, frame }) => early || frame.state === 'ready').length;
    const status = readFileSync(`/proc/${app.child.pid}/status`, 'utf8');
    most = Math.max(most, Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1e6);
    if (pictures === COUNT && !shown) say(`all with a picture after ${seconds().toFixed(1)} s (wanted 15)`);
    shown ||= pictures === COUNT;
    if (order.length === COUNT) break;
    if (cards.some(({ frame }) => frame.state === 'failed'))
      throw new Error('A frame could not be prepared.');
  }
  await sending;
  say(`all can be opened after ${seconds().toFixed(1)} s (wanted 75)`);
  const out = order.filter((name, i) => Math.abs([...order].sort().indexOf(name) - i) > 1).length;
  say(`${out} out of order by more than one; most memory of the app ${most.toFixed(2)} GB`);
} finally {
  await app.end();
}
