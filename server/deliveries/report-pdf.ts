/** The report for the client: each picture small, its readings, the lens and method used, and what was not measured. */
import { join } from 'node:path';
import PDFDocument from 'pdfkit';
import sharp from 'sharp';
import { ROOT } from '../paths.ts';
import type { Report } from '../render/report.ts';
import type { ManifestEntry } from './manifest.ts';

const FONTS = join(ROOT, 'node_modules/@fontsource/ibm-plex-sans/files');
const PLEX = join(FONTS, 'ibm-plex-sans-latin-400-normal.woff');
const PLEX_SEMIBOLD = join(FONTS, 'ibm-plex-sans-latin-600-normal.woff');
const INK = '#22262a';
const FAINT = '#5c6166';
const ACCENT = '#b3541e';
const MARGIN = 42;
const PICTURE = { width: 200, height: 150 };
const ENTRY = 218;

export interface ReportHead {
  job: string;
  client: string;
  site: string;
  date: string;
}

const degrees = (lines: Report['readings']['plumb']): string =>
  lines
    ? `${lines.rms.toFixed(2)}° (${lines.count} ${lines.count === 1 ? 'line' : 'lines'})`
    : 'not measured';

/** Readings as the client reads them. */
export function readingRows({ readings }: Report): [string, string][] {
  const { plumb, level, straight, fringe, neutral, falloff, cover, sampling, proportion, stretch } = readings;
  return [
    ['Plumb', degrees(plumb)],
    ['Level', degrees(level)],
    ['Straight', straight ? `${straight.rms.toFixed(2)} px` : 'not measured'],
    ['Fringe', fringe ? `${fringe.worst.toFixed(2)} px` : 'not measured'],
    [
      'Neutral',
      neutral
        ? `${neutral.rms.toFixed(1)} from grey (${neutral.places} ${neutral.places === 1 ? 'place' : 'places'})`
        : 'not measured'
    ],
    ['Falloff', falloff === null ? 'not measured' : `${(falloff || 0).toFixed(2)} EV`],
    ['Cover', `${cover.toFixed(cover === 100 ? 0 : 1)} %`],
    ['Sampling', sampling.toFixed(2)],
    [
      'Proportion',
      stretch === 0 ? proportion : `${proportion}, height ${stretch > 0 ? '+' : ''}${stretch.toFixed(1)} %`
    ]
  ];
}

function methodOf({ lens, rotation, focal }: Report): string[] {
  const source = {
    profile: lens.profile ? `by the profile ${lens.profile.lens}` : 'by a profile',
    picture: 'straightened by edges of the picture',
    hand: 'set by hand',
    none: 'left as the lens drew it'
  }[lens.source];
  const [roll, pitch, yaw] = [rotation.roll, rotation.pitch, rotation.yaw].map((value) => value.toFixed(2));
  const from = {
    file: 'as the file says',
    profile: 'from the profile',
    hand: 'set by hand',
    solved: 'solved from lines',
    assumed: 'assumed'
  };
  return [
    `Lens: ${lens.text ?? 'not named'}; distortion ${source}.`,
    `Turned by roll ${roll}°, pitch ${pitch}°, yaw ${yaw}°; focal length ${from[focal.from as keyof typeof from]}.`
  ];
}

export async function reportPdf(
  head: ReportHead,
  entries: readonly ManifestEntry[],
  pathOf: (file: string) => string
): Promise<Buffer> {
  // A fixed date in the file itself: the same delivery makes the same report.
  const stamp = new Date(`${head.date}T00:00:00Z`);
  const doc = new PDFDocument({
    size: 'A4',
    margin: MARGIN,
    info: { Title: `Report: ${head.job}`, Creator: 'Line True', CreationDate: stamp, ModDate: stamp }
  });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const ended = new Promise<void>((resolve) => doc.on('end', resolve));
  doc.registerFont('plain', PLEX).registerFont('strong', PLEX_SEMIBOLD);
  doc.font('strong').fontSize(18).fillColor(INK).text(head.job, MARGIN, MARGIN);
  const under = [head.client, head.site, head.date].filter(Boolean).join(' · ');
  doc.font('plain').fontSize(9.5).fillColor(FAINT).text(under);
  doc.text(
    'Plumb and level are the angles left from vertical and horizontal, straight and fringe what is left of bows and colour edges; all measured in the finished picture at full size. Neutral is the chroma (CIELAB) of places that are grey.',
    { width: 510 }
  );
  const byFrame = new Map<string, ManifestEntry[]>();
  for (const entry of entries) byFrame.set(entry.frame, [...(byFrame.get(entry.frame) ?? []), entry]);
  let y = doc.y + 14;
  for (const [frame, files] of byFrame) {
    const height = Math.max(ENTRY, 150 + files.length * 11 + 20);
    if (y + height > doc.page.height - MARGIN) {
      doc.addPage();
      y = MARGIN;
    }
    const [first] = files;
    doc
      .moveTo(MARGIN, y)
      .lineTo(doc.page.width - MARGIN, y)
      .lineWidth(0.6)
      .strokeColor('#c6c8ca')
      .stroke();
    y += 10;
    const small = await sharp(pathOf(first.file))
      .resize({ width: PICTURE.width * 3, height: PICTURE.height * 3, fit: 'inside' })
      .toColourspace('srgb')
      .jpeg({ quality: 82 })
      .toBuffer();
    doc.image(small, MARGIN, y, { fit: [PICTURE.width, PICTURE.height] });
    const left = MARGIN + PICTURE.width + 18;
    doc.font('strong').fontSize(11).fillColor(INK).text(frame, left, y, { lineBreak: false });
    let row = y + 18;
    doc.fontSize(9);
    for (const [name, value] of readingRows(first.report)) {
      doc.font('plain').fillColor(FAINT).text(name, left, row, { lineBreak: false });
      doc
        .font('strong')
        .fillColor(value === 'not measured' ? FAINT : INK)
        .text(value, left + 70, row, { lineBreak: false });
      row += 12;
    }
    doc.font('plain').fontSize(8.5).fillColor(INK);
    doc.text([...methodOf(first.report), ...first.report.lens.notices].join(' '), left, row + 4, {
      width: 292
    });
    if (first.report.notMeasured.length > 0)
      doc.fillColor(ACCENT).text(`Not measured: ${first.report.notMeasured.join('; ')}.`, { width: 292 });
    row = Math.max(doc.y, y + PICTURE.height) + 5;
    doc.fillColor(FAINT).fontSize(7.5);
    for (const { file, width, height: h, bytes, sha256 } of files) {
      const size = bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.round(bytes / 1000)} kB`;
      doc.text(`${file}   ${width} × ${h} px   ${size}   SHA-256 ${sha256.slice(0, 16)}…`, MARGIN, row, {
        width: 510,
        lineBreak: false
      });
      row += 10.5;
    }
    y = row + 8;
  }
  doc.end();
  await ended;
  return Buffer.concat(parts);
}
