import { expect, it } from 'vitest';
import { framesOfRecipe, isRecipeFile } from './recipe-files.ts';

const frames = (...names: string[]): { name: string }[] => names.map((name) => ({ name }));

it('knows recipes by their ending', () => {
  expect(['a.json', 'A.JSON', 'a.dng', 'json', 'a.json.dng'].map(isRecipeFile)).toEqual([
    true,
    true,
    false,
    false,
    false
  ]);
});

it('finds the photograph of the same name, and of a raw file and its picture the raw file', () => {
  const all = frames('A_01.dng', 'A_01.jpg', 'a_02.DNG', 'A_03.jpg', 'A_01.b.dng', 'A_010.dng');
  const of = (file: string): string[] => framesOfRecipe(file, all).map(({ name }) => name);
  expect(of('A_01.json')).toEqual(['A_01.dng']);
  expect(of('A_02.json')).toEqual(['a_02.DNG']);
  expect(of('A_03.json')).toEqual(['A_03.jpg']);
  expect(of('A_01.b.json')).toEqual(['A_01.b.dng']);
  expect(of('A_04.json')).toEqual([]);
});
