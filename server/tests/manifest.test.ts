/** The manifest as CSV (RFC 4180), read by a reader of its own. */
import { expect, it } from 'vitest';
import { type ManifestEntry, manifestCsv } from '../deliveries/manifest.ts';
import { xmpPacket } from '../render/xmp.ts';

/** Fields of RFC 4180, by its grammar. */
function fieldsOf(csv: string): string[][] {
  const rows: string[][] = [[]];
  for (const [, quoted, plain, end] of csv.matchAll(/(?:"((?:[^"]|"")*)"|([^",\r\n]*))(,|\r\n|$)/g)) {
    rows.at(-1)!.push(quoted?.replaceAll('""', '"') ?? plain);
    if (end === '\r\n') rows.push([]);
  }
  return rows.filter(({ length }) => length > 1);
}

it('keeps commas, quotes and line ends of names, defuses formulas, leaves numbers alone', () => {
  const entry = (file: string): ManifestEntry => ({
    file,
    frame: '-frame',
    deliverable: 'Web, large',
    bytes: 7,
    width: 3,
    height: 2,
    sha256: 'abc',
    report: {
      readings: {
        plumb: { rms: -0.12345, found: { error: 0.21234 } },
        straight: { rms: 1 },
        falloff: -1.2,
        proportion: null
      }
    } as never
  });
  const files = ['a\nb.jpg', 'a\rb.jpg', 'c"d".jpg', 'e.jpg'];
  const [head, ...rows] = fieldsOf(manifestCsv([...files, '=1+2.jpg'].map(entry)));
  expect(rows.map(([file]) => file)).toEqual([...files, "'=1+2.jpg"]);
  for (const row of rows) {
    expect(row).toHaveLength(head.length);
    expect(row.slice(1, 4)).toEqual(["'-frame", 'Web, large', '7']);
    expect(row[head.indexOf('plumb_degrees')]).toBe('-0.123');
    expect(row[head.indexOf('falloff_ev')]).toBe('-1.2');
    expect(row[head.indexOf('level_degrees')]).toBe('');
    expect(row[head.indexOf('found_by_itself')]).toBe('plumb ±0.212');
  }
});

it('leaves out of XMP what is not told, and what XML cannot hold', () => {
  const told = { title: '', caption: '', creator: '', copyright: '', keywords: [] };
  expect(xmpPacket(told)).toBeNull();
  const packet = xmpPacket({ ...told, caption: 'Oak & <elm>\u0001', keywords: ['a', 'b'] })!;
  expect(packet).toContain('Oak &amp; &lt;elm&gt;</rdf:li></rdf:Alt></dc:description>');
  expect(packet).toContain('<rdf:Bag><rdf:li>a</rdf:li><rdf:li>b</rdf:li></rdf:Bag>');
  expect(packet).not.toContain('dc:title');
});
