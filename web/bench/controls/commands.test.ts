import { describe, expect, it } from 'vitest';
import { type Command, findCommands, keyText, tooltip } from './commands.ts';

const command = (label: string, group: string, more: Partial<Command> = {}): Command => ({
  id: label,
  label,
  group,
  keys: [],
  run() {},
  ...more
});

describe('commands', () => {
  it('are found by the beginnings of words, those whose name begins so first', () => {
    const all = [
      command('Show the grid', 'Picture'),
      command('Grid', 'Picture'),
      command('True up by itself', 'Lines')
    ];
    const found = (text: string): string[] => findCommands(all, text).map(({ label }) => label);
    expect(found('gr')).toEqual(['Grid', 'Show the grid']);
    expect(found('pict gri')).toEqual(['Show the grid', 'Grid']);
    expect(found('up lin')).toEqual(['True up by itself']);
    expect(found('rid')).toEqual([]);
    expect(found('')).toHaveLength(3);
  });

  it('tell their keys, and why they rest', () => {
    expect(keyText('$mod+Shift+z')).toBe('Ctrl+Shift+Z');
    expect(keyText('Shift++')).toBe('Shift++');
    expect(keyText('Control+Alt+ArrowLeft')).toBe('Ctrl+Alt+←');
    expect(tooltip(command('Undo', 'Frame', { keys: ['$mod+z'] }))).toBe('Undo (Ctrl+Z)');
    expect(tooltip(command('Undo', 'Frame', { idle: () => 'Nothing to undo.' }))).toBe('Nothing to undo.');
    expect(tooltip(command('As shot', 'Picture', { keys: ['q'], release() {} }))).toBe('As shot (Q held)');
  });
});
