/** The report for the client: each picture small, its readings, the lens and method used, and what was not measured. */
import { join } from 'node:path';
import PDFDocument from 'pdfkit';
import sharp from 'sharp';
import { disclosureSentence } from '../../core/steps/mend/disclosure.ts';
import { angleText, straightText } from '../../core/render/readings/reading-text.ts';
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
/** Readings stand in two columns: those with the longer words first. */
const TEXT = { left: MARGIN + PICTURE.width + 18, width: 293, label: 52, second: 190 };
const ROW = 12;
const FILE_ROW = 10.5;

export interface ReportHead {
  job: string;
  client: string;
  site: string;
  date: string;
}

const NOT_MEASURED = 'not measured';

const degrees = (lines: Report['readings']['plumb']): string =>
  lines ? `${angleText(lines)} (${lines.count} ${lines.count === 1 ? 'line' : 'lines'})` : 'not measured';

/** Readings as the client reads them: two columns. */
export function readingRows({ readings }: Report): [string, string][][] {
  const { plumb, level, straight, fringe, neutral, falloff, cover, sampling, proportion, stretch } = readings;
  const grey = (places: number): string => `(${places} ${places === 1 ? 'place' : 'places'})`;
  return [
    [
      ['Plumb', degrees(plumb)],
      ['Level', degrees(level)],
      ['Straight', straight ? straightText(straight) : NOT_MEASURED],
      ['Neutral', neutral ? `${neutral.rms.toFixed(1)} from grey ${grey(neutral.places)}` : NOT_MEASURED],
      [
        'Proportion',
        stretch === 0 ? proportion : `${proportion}, height ${stretch > 0 ? '+' : ''}${stretch.toFixed(1)} %`
      ]
    ],
    [
      ['Fringe', fringe ? `${fringe.worst.toFixed(2)} px` : NOT_MEASURED],
      ['Falloff', falloff === null ? NOT_MEASURED : `${(falloff || 0).toFixed(2)} EV`],
      ['Cover', `${cover.toFixed(cover === 100 ? 0 : 1)} %`],
      ['Sampling', sampling.toFixed(2)]
    ]
  ];
}

function methodOf({ lens, rotation, focal, mended, outside }: Report): string[] {
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
    `Turned by roll ${roll}°, pitch ${pitch}°, yaw ${yaw}°; focal length ${from[focal.from as keyof typeof from]}.`,
    ...(mended ? [disclosureSentence(mended)] : []),
    ...(outside ? [outside] : [])
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
    'Plumb and level are the angles left from vertical and horizontal, straight and fringe what is left of bows and colour edges; all measured in the finished picture at full size. Neutral is the chroma (CIELAB) of places that are grey. Found: measured on lines that were found, not marked, with the standard error.',
    { width: 510 }
  );
  const byFrame = new Map<string, ManifestEntry[]>();
  for (const entry of entries) byFrame.set(entry.frame, [...(byFrame.get(entry.frame) ?? []), entry]);
  let y = doc.y + 14;
  for (const [frame, files] of byFrame) {
    const [{ report, file: shown }] = files;
    const columns = readingRows(report);
    const method = [...methodOf(report), ...report.lens.notices].join(' ');
    const missing = report.notMeasured.length > 0 ? `Not measured: ${report.notMeasured.join('; ')}.` : '';
    const under = 18 + ROW * columns[0].length + 3;
    doc.font('plain').fontSize(8.5);
    const width = { width: TEXT.width };
    const text = doc.heightOfString(method, width) + (missing ? doc.heightOfString(missing, width) : 0);
    const upper = Math.max(PICTURE.height, under + text) + 5;
    if (y + 10 + upper + files.length * FILE_ROW > doc.page.height - MARGIN) {
      doc.addPage();
      y = MARGIN;
    }
    doc
      .moveTo(MARGIN, y)
      .lineTo(doc.page.width - MARGIN, y)
      .lineWidth(0.6)
      .strokeColor('#c6c8ca')
      .stroke();
    y += 10;
    const small = await sharp(pathOf(shown))
      .resize({ width: PICTURE.width * 3, height: PICTURE.height * 3, fit: 'inside' })
      .toColourspace('srgb')
      .jpeg({ quality: 82 })
      .toBuffer();
    doc.image(small, MARGIN, y, { fit: [PICTURE.width, PICTURE.height] });
    doc.font('strong').fontSize(11).fillColor(INK).text(frame, TEXT.left, y, { lineBreak: false });
    doc.fontSize(9);
    columns.forEach((rows, column) =>
      rows.forEach(([name, value], row) => {
        const [left, top] = [TEXT.left + column * TEXT.second, y + 18 + row * ROW];
        doc.font('plain').fillColor(FAINT).text(name, left, top, { lineBreak: false });
        doc
          .font('strong')
          .fillColor(value === NOT_MEASURED ? FAINT : INK)
          .text(value, left + TEXT.label, top, { lineBreak: false });
      })
    );
    doc
      .font('plain')
      .fontSize(8.5)
      .fillColor(INK)
      .text(method, TEXT.left, y + under, width);
    if (missing) doc.fillColor(ACCENT).text(missing, width);
    y += upper;
    doc.fillColor(FAINT).fontSize(7.5);
    for (const { file, width, height, bytes, sha256 } of files) {
      const size = bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.round(bytes / 1000)} kB`;
      doc.text(`${file}   ${width} × ${height} px   ${size}   SHA-256 ${sha256.slice(0, 16)}…`, MARGIN, y, {
        width: 510,
        lineBreak: false
      });
      y += FILE_ROW;
    }
    y += 8;
  }
  doc.end();
  await ended;
  return Buffer.concat(parts);
}
