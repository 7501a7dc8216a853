import { describe, expect, it } from 'vitest';
import { plainControls, styleLines } from './check-toolkit.ts';

describe('the check of the toolkit', () => {
  const source = `<!-- No <button> counts here. -->
<script lang="ts">
  const text = '<input>';
</script>
<Button>Go</Button>
<button type="button">Go</button>
<label><input /></label>
<style>
  label {
    color: red;
  }
</style>
`;
  it('finds plain controls in the markup alone', () =>
    expect(plainControls(source)).toEqual(['button', 'input']));
  it('counts lines of style', () => expect(styleLines(source)).toBe(5));
});
