import { deliverableSchema } from './deliverable-schema.ts';

/** Settings of an export: the one definition for interface, server and docs. */
export const exportSchema = {
  $id: 'export',
  type: 'object',
  additionalProperties: false,
  properties: {
    quality: { type: 'integer', default: 92, minimum: 1, maximum: 100, step: 1, label: 'Quality' },
    longEdge: {
      type: ['integer', 'null'],
      default: null,
      minimum: 16,
      maximum: 100000,
      step: 1,
      unit: 'px',
      label: 'Long edge',
      description: 'Longest edge in pixels; null is full size. Never enlarges.'
    },
    ppi: deliverableSchema.properties.ppi,
    keepPosition: deliverableSchema.properties.keepPosition
  }
} as const;

export interface ExportSettings {
  quality: number;
  longEdge: number | null;
  ppi: number;
  keepPosition: boolean;
}

export function completeExport(partial: Partial<ExportSettings>): ExportSettings {
  const { quality, longEdge, ppi, keepPosition } = exportSchema.properties;
  return {
    quality: quality.default,
    longEdge: longEdge.default,
    ppi: ppi.default,
    keepPosition: keepPosition.default,
    ...partial
  };
}
