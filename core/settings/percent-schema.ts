/** A share of something, in whole percent from none to all of it. */
export const percent = (label: string, usual: number, description: string) =>
  ({
    type: 'number',
    default: usual,
    minimum: 0,
    maximum: 100,
    step: 1,
    unit: '%',
    label,
    description
  }) as const;

/** A share that goes both ways, nothing by itself. */
export const signedPercent = (label: string, description: string) =>
  ({ ...percent(label, 0, description), minimum: -100 }) as const;
