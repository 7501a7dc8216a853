import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Definition, completed, definitionAt, valueAt, withValueAt } from './nested.ts';

/** Things with settings of their own, as an area has a shape and what is done to it. */
const SCHEMA = {
  type: 'object',
  properties: {
    enabled: { type: 'boolean', default: true },
    things: {
      type: 'array',
      default: [],
      items: {
        type: 'object',
        properties: {
          id: { type: 'string' },
          opacity: { type: 'number', default: 100 },
          shape: {
            type: 'array',
            default: [],
            items: { type: 'object', properties: { soft: { type: 'number', default: 3 } } }
          },
          settings: {
            type: 'object',
            default: {},
            properties: { exposure: { type: 'number', default: 0 }, curve: { type: 'array', default: [] } }
          }
        }
      }
    },
    found: {
      default: null,
      oneOf: [{ type: 'null' }, { type: 'object', properties: { sure: { type: 'boolean', default: false } } }]
    }
  }
} as const satisfies Definition;

describe('settings within settings', () => {
  it('are filled in at every depth, in lists and in what may be null too', () => {
    expect(completed(SCHEMA, {})).toEqual({ enabled: true, things: [], found: null });
    expect(
      completed(SCHEMA, {
        things: [{ id: 'a' }, { id: 'b', shape: [{}, { soft: 9 }], settings: { exposure: 2 } }],
        found: {}
      })
    ).toEqual({
      enabled: true,
      things: [
        { id: 'a', opacity: 100, shape: [], settings: { exposure: 0, curve: [] } },
        { id: 'b', opacity: 100, shape: [{ soft: 3 }, { soft: 9 }], settings: { exposure: 2, curve: [] } }
      ],
      found: { sure: false }
    });
    // Defaults are copies.
    const [one, other] = [completed(SCHEMA, {}), completed(SCHEMA, {})] as { things: unknown[] }[];
    one.things.push(1);
    expect(other.things).toEqual([]);
  });

  it('leave what was whole as the very object that it was', () => {
    const stroke = { soft: 1 };
    const whole = { id: 'a', opacity: 5, shape: [stroke], settings: { exposure: 1, curve: [] } };
    const made = completed(SCHEMA, { things: [whole, { id: 'b' }] }) as { things: object[] };
    expect(made.things[0]).toBe(whole);
    const again = completed(SCHEMA, made);
    expect(again).toBe(made);
  });

  it('are found by their path, with their definition, and changed along it alone', () => {
    const settings = completed(SCHEMA, { things: [{ id: 'a' }, { id: 'b' }] }) as { things: object[] };
    const path = ['things', 1, 'settings', 'exposure'] as const;
    expect(definitionAt(SCHEMA, path)).toEqual({ type: 'number', default: 0 });
    expect(definitionAt(SCHEMA, ['found', 'sure'])).toEqual({ type: 'boolean', default: false });
    expect(definitionAt(SCHEMA, ['things', 0, 'nothing'])).toBeNull();
    expect(valueAt(settings, path)).toBe(0);
    expect(valueAt(settings, ['things', 7, 'settings', 'exposure'])).toBeUndefined();
    const changed = withValueAt(settings, path, 1.5);
    expect(valueAt(changed, path)).toBe(1.5);
    expect(valueAt(settings, path)).toBe(0);
    expect(changed.things[0]).toBe(settings.things[0]);
    expect(changed.things[1]).not.toBe(settings.things[1]);
  });

  it('come out of any number of completions as out of one', () => {
    fc.assert(
      fc.property(
        fc.object({ key: fc.constantFrom('things', 'settings', 'shape', 'found', 'soft') }),
        (value) => {
          const once = completed(SCHEMA, value);
          expect(completed(SCHEMA, once)).toEqual(once);
        }
      )
    );
  });

  it('tells things of several kinds apart by their kind', () => {
    const definition = {
      type: 'array',
      items: {
        oneOf: [
          { properties: { kind: { const: 'line' }, width: { type: 'number', default: 2 } } },
          { properties: { kind: { const: 'spot' }, size: { type: 'number', default: 5 } } }
        ]
      }
    } as const;
    expect(completed(definition, [{ kind: 'spot' }, { kind: 'line' }, { kind: 'cloud' }])).toEqual([
      { kind: 'spot', size: 5 },
      { kind: 'line', width: 2 },
      { kind: 'cloud' }
    ]);
  });
});
