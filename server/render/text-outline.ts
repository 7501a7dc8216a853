/** A line of text as an SVG picture, drawn with the outlines of the font that ships with the app. */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type Font, openSync } from 'fontkit';
import { ROOT } from '../paths.ts';
import { UserError } from '../user-error.ts';

const FOLDER = join(ROOT, 'node_modules/@fontsource/ibm-plex-sans/files');
const WEIGHT = '-600-normal.woff';
/** Width of the dark rim about the letters, in thousandths of the font's size. */
const RIM = 25;

let fonts: Font[] | null = null;

/** The font comes in parts by script; Latin, which most texts are in, is asked first. */
function partsOfFont(): Font[] {
  fonts ??= readdirSync(FOLDER)
    .filter((name) => name.endsWith(WEIGHT))
    .sort((a, b) => Number(b.includes(`-latin${WEIGHT}`)) - Number(a.includes(`-latin${WEIGHT}`)))
    .map((name) => openSync(join(FOLDER, name)) as Font);
  return fonts;
}

/** The text cut into runs that one part of the font can set. */
function runsOf(text: string): { font: Font; run: string }[] {
  const parts = partsOfFont();
  const runs: { font: Font; run: string }[] = [];
  for (const letter of text) {
    const font = parts.find((part) => part.hasGlyphForCodePoint(letter.codePointAt(0)!));
    if (!font)
      throw new UserError(
        `The font of the watermark has no “${letter}”. Leave it out, or choose a PNG file instead of the text.`
      );
    const last = runs.at(-1);
    if (last?.font === font) last.run += letter;
    else runs.push({ font, run: letter });
  }
  return runs;
}

export interface TextOutline {
  /** Width over height. */
  ratio: number;
  /** The picture at a width in pixels: white letters with a dark rim, so that they are seen on any ground. */
  svg: (width: number) => string;
}

/** Throws a UserError for letters that the font does not have. */
export function outlineText(text: string): TextOutline {
  const paths: string[] = [];
  let along = RIM;
  const [{ ascent, descent, unitsPerEm }] = partsOfFont();
  for (const { font, run } of runsOf(text.normalize('NFC').trim())) {
    const { glyphs, positions } = font.layout(run);
    glyphs.forEach((glyph, i) => {
      const { xAdvance, xOffset, yOffset } = positions[i];
      const place = `translate(${along + xOffset} ${ascent - yOffset}) scale(1 -1)`;
      paths.push(`<path transform="${place}" d="${glyph.path.toSVG()}"/>`);
      along += xAdvance;
    });
  }
  const [width, height] = [along + RIM, ascent - descent];
  const rim = `stroke="#000" opacity="0.45" stroke-width="${(2 * RIM * unitsPerEm) / 1000}" stroke-linejoin="round"`;
  return {
    ratio: width / height,
    svg: (pixels) =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="${pixels}" height="${(pixels * height) / width}" ` +
      `viewBox="0 0 ${width} ${height}"><g fill="none" ${rim}>${paths.join('')}</g>` +
      `<g fill="#fff">${paths.join('')}</g></svg>`
  };
}
