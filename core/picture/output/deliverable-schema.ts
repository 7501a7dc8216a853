/** A kind of output: the one definition for interface, server, command line and docs. */
import { SPACES } from '../../colour/rgb-spaces.ts';
import { RATIO_PATTERN } from './ratios.ts';
import { type Definition, completed } from '../../settings/nested.ts';
import type { Settings } from '../../settings/step.ts';

export const FORMATS = ['jpeg', 'tiff', 'png', 'webp', 'avif'] as const;
export type OutputFormat = (typeof FORMATS)[number];
export const SIZE_KINDS = ['full', 'long', 'short', 'exact', 'megapixels'] as const;
export const SHARPENING = ['none', 'screen', 'print'] as const;
export type Sharpening = (typeof SHARPENING)[number];
export const METADATA = ['none', 'rights', 'all'] as const;
export const DISCLOSURES = ['none', 'metadata', 'caption'] as const;
export const EXISTING = ['number', 'replace', 'skip'] as const;
export const PLACES = ['top left', 'top right', 'middle', 'bottom left', 'bottom right'] as const;

/** Keeps the ratio that each frame has in hand. */
export const AS_CROPPED = 'as cropped';

const text = (label: string, maxLength = 500, initial = '') =>
  ({ type: 'string', default: initial, maxLength, label }) as const;
const pixels = (label: string) =>
  ({ type: 'integer', default: 2048, minimum: 16, maximum: 30000, step: 1, unit: 'px', label }) as const;

/** Longest PNG of a watermark, as base64: 3 MB. */
const MOST_PNG = 4_000_000;

export const deliverableSchema = {
  $id: 'deliverable',
  type: 'object',
  additionalProperties: false,
  required: ['name'],
  properties: {
    name: { type: 'string', default: '', minLength: 1, maxLength: 80, pattern: '\\S', label: 'Name' },
    ratio: {
      type: 'string',
      default: AS_CROPPED,
      pattern: `${RATIO_PATTERN}|^${AS_CROPPED}$`,
      label: 'Ratio',
      description: '"as cropped" keeps the ratio that each frame has in hand.'
    },
    sizeKind: { enum: SIZE_KINDS, default: 'full', label: 'Size' },
    width: pixels('Width or edge'),
    height: pixels('Height'),
    megapixels: {
      type: 'number',
      default: 12,
      minimum: 0.01,
      maximum: 400,
      step: 0.1,
      unit: 'MP',
      label: 'Megapixels'
    },
    enlarge: { type: 'boolean', default: false, label: 'May be enlarged' },
    format: { enum: FORMATS, default: 'jpeg', label: 'Format' },
    depth: { enum: [8, 16], default: 8, label: 'Bits', description: '16 bits with TIFF and PNG only.' },
    quality: { type: 'integer', default: 90, minimum: 1, maximum: 100, step: 1, label: 'Quality' },
    limit: {
      type: ['integer', 'null'],
      default: null,
      minimum: 5,
      maximum: 1_000_000,
      step: 1,
      unit: 'kB',
      label: 'Largest file',
      description: 'In kB of 1000 bytes; the quality is lowered as far as it takes. Not for TIFF and PNG.'
    },
    space: { enum: SPACES, default: 'srgb', label: 'Colours' },
    ppi: {
      type: 'integer',
      default: 300,
      minimum: 1,
      maximum: 10000,
      step: 1,
      unit: 'ppi',
      label: 'Resolution'
    },
    sharpening: { enum: SHARPENING, default: 'screen', label: 'Sharpening' },
    metadata: {
      enum: METADATA,
      default: 'rights',
      label: 'Metadata',
      description:
        '"rights": creator, copyright, title, caption and keywords; "all": the camera data as well.'
    },
    keepPosition: { type: 'boolean', default: false, label: 'Keep the GPS position' },
    disclosure: {
      enum: DISCLOSURES,
      default: 'metadata',
      label: 'What was mended',
      description:
        'Said in the metadata (IPTC digital source type), in the caption as well, or not at all; the report always says it.'
    },
    onlyDust: {
      type: 'boolean',
      default: false,
      label: 'Refuse what was taken out',
      description: 'Refuses frames in which more than dust was mended.'
    },
    title: text('Title', 200),
    caption: text('Caption', 2000),
    creator: text('Creator', 200),
    copyright: text('Copyright', 300),
    keywords: text('Keywords', 1000),
    watermark: {
      default: null,
      label: 'Watermark',
      oneOf: [
        { type: 'null' },
        {
          type: 'object',
          additionalProperties: false,
          required: ['text', 'png', 'place', 'size', 'opacity'],
          properties: {
            text: { type: 'string', maxLength: 120, description: 'Or else a PNG picture as base64.' },
            png: { type: ['string', 'null'], maxLength: MOST_PNG, pattern: '^[A-Za-z0-9+/=]*$' },
            place: { enum: PLACES },
            size: {
              type: 'number',
              minimum: 2,
              maximum: 100,
              description: "Width in percent of the picture's."
            },
            opacity: { type: 'number', minimum: 1, maximum: 100, description: 'In percent.' }
          }
        }
      ]
    },
    pattern: text('File name', 200, '{job}-{frame}-{deliverable}'),
    existing: {
      enum: EXISTING,
      default: 'number',
      label: 'When a file exists',
      description: 'Give the new one a number, replace the old one, or skip it.'
    }
  }
} as const;

export type Deliverable = Settings<typeof deliverableSchema>;
export type Watermark = NonNullable<Deliverable['watermark']>;

/** A deliverable with every setting present. */
export function completeDeliverable(partial: Partial<Deliverable> & { name: string }): Deliverable {
  return completed(deliverableSchema as Definition, { ...partial }) as Deliverable;
}

export interface DeliverableFault {
  /** The setting that it is told beside. */
  field: keyof Deliverable;
  message: string;
}

/** Why a deliverable's settings contradict each other, or null. */
export function deliverableFault(deliverable: Deliverable): DeliverableFault | null {
  const { format, depth, limit, name } = deliverable;
  if (depth === 16 && format !== 'tiff' && format !== 'png')
    return {
      field: 'depth',
      message: `"${name}" asks for 16 bits, which ${format.toUpperCase()} does not hold here. Take TIFF or PNG, or 8 bits.`
    };
  if (limit !== null && (format === 'tiff' || format === 'png'))
    return {
      field: 'limit',
      message: `"${name}" sets a largest file, but ${format.toUpperCase()} has no quality to lower. Take JPEG, WebP or AVIF.`
    };
  if (deliverable.watermark && !deliverable.watermark.text.trim() && !deliverable.watermark.png)
    return { field: 'watermark', message: `The watermark of "${name}" has neither text nor picture.` };
  return null;
}

/** Ready-made ones for common uses. */
export const SHIPPED_DELIVERABLES: readonly Deliverable[] = [
  { name: 'Listing 4x3', ratio: '4:3', sizeKind: 'long', width: 2048, limit: 900, ppi: 96 },
  { name: 'Banner 16x9', ratio: '16:9', sizeKind: 'exact', width: 1920, height: 1080, limit: 600, ppi: 96 },
  { name: 'Feed 4x5', ratio: '4:5', sizeKind: 'exact', width: 1080, height: 1350, quality: 88, ppi: 96 },
  {
    name: 'Architect TIFF',
    format: 'tiff',
    depth: 16,
    sharpening: 'none',
    metadata: 'all'
  },
  { name: 'Print 300 ppi', quality: 96, sharpening: 'print', metadata: 'all' }
].map((shipped) => completeDeliverable(shipped as Partial<Deliverable> & { name: string }));
