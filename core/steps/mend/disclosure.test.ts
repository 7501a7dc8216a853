import { describe, expect, it } from 'vitest';
import { completeRecipe } from '../../recipe/recipe.ts';
import { digitalSourceType, disclose } from './disclosure.ts';

const spot = { id: 'a', kind: 'heal', points: [0, 0], size: 10, source: [0.1, 0] };
const of = (...patches: object[]) => disclose(completeRecipe({ mend: { patches } } as never));

describe('what was mended is disclosed', () => {
  it('in words, dust apart from what was taken out', () => {
    expect(of()).toMatchObject({ words: 'nothing mended or taken out', beyondDust: false });
    const dusty = of({ ...spot, dust: true }, { ...spot, id: 'b', dust: true });
    expect(dusty).toMatchObject({ words: 'mended: two specks of dust', beyondDust: false, dust: 2 });
    const more = of(
      { ...spot, dust: true },
      { ...spot, id: 'b' },
      { ...spot, id: 'c', name: 'bin' },
      { ...spot, id: 'd', name: 'bin' },
      { ...spot, id: 'e', kind: 'cable' },
      { ...spot, id: 'f', kind: 'clone', name: 'parked bicycle' }
    );
    expect(more.words).toBe(
      'mended: one speck of dust, one spot; taken out: bin (2), parked bicycle, one cable'
    );
    expect(more.beyondDust).toBe(true);
    const fill = { left: 0, top: 0, cell: 0.01, columns: 1, offsets: [100, 0] };
    expect(of({ ...spot, kind: 'takeOut', fill }).words).toBe('taken out: something');
    expect(of({ ...spot, kind: 'takeOut' }).words).toBe('nothing mended or taken out');
  });

  it('not where it is switched off, singly or as a step, or mixed in by nothing', () => {
    expect(of({ ...spot, enabled: false }).beyondDust).toBe(false);
    expect(of({ ...spot, opacity: 0 }).beyondDust).toBe(false);
    const off = completeRecipe({ mend: { enabled: false, patches: [spot] } } as never).mend;
    expect(disclose({ ...completeRecipe({}), mend: off }).beyondDust).toBe(false);
  });

  it('and so is a sky of another picture, while it is shown', () => {
    const areas = {
      shapes: [{ id: 's', parts: [{ id: 'f', kind: 'found', meets: 'add', what: 'sky' }] }],
      list: [{ id: 'a', shape: 's', sky: { picture: 'first-light' } }]
    };
    const told = (more: object): ReturnType<typeof disclose> =>
      disclose(
        completeRecipe({
          mend: { patches: [{ ...spot, dust: true }] },
          areas: { ...areas, ...more }
        } as never)
      );
    expect(told({})).toMatchObject({
      sky: true,
      words: 'mended: one speck of dust; sky replaced',
      beyondDust: true
    });
    expect(digitalSourceType(told({}), 'scene')).toMatch(/compositeCapture$/);
    for (const away of [
      { enabled: false },
      { list: [{ ...areas.list[0], enabled: false }] },
      { list: [{ ...areas.list[0], opacity: 0 }] },
      { list: [{ ...areas.list[0], sky: null }] },
      { shapes: [{ id: 's', parts: [] }] }
    ])
      expect(told(away)).toMatchObject({ sky: false, beyondDust: false });
  });

  it('as a term of the IPTC', () => {
    expect(digitalSourceType(of(), 'scene')).toMatch(/digitalCapture$/);
    expect(digitalSourceType(of({ ...spot, dust: true }), 'scene')).toMatch(/digitalCapture$/);
    expect(digitalSourceType(of(), 'display')).toBeNull();
    expect(digitalSourceType(of(spot), 'display')).toMatch(/humanEdits$/);
  });
});
