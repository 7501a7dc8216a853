<!-- All settings of a deliverable, in the order of its making: picture, file, rights, watermark, name. -->
<script lang="ts">
  import { RGB_SPACES } from '$core/colour/rgb-spaces.ts';
  import { RATIOS } from '$core/crop/ratios.ts';
  import {
    AS_CROPPED,
    type Deliverable,
    PLACES,
    type Watermark,
    deliverableSchema
  } from '$core/output/deliverable-schema.ts';
  import { TOKENS, type TokenValues, fileName, unknownTokens } from '$core/output/file-name.ts';

  interface Props {
    wanted: Deliverable;
    /** Nothing can be changed. */
    fixed?: boolean;
    /** Texts and watermark are shown when asked for. */
    folded?: boolean;
  }
  let { wanted = $bindable(), fixed = false, folded = false }: Props = $props();
  const settings = deliverableSchema.properties;
  const RATIO_CHOICES = [AS_CROPPED, ...RATIOS.filter((ratio) => ratio !== 'free'), '2:3', '3:4', '9:16'];
  const SIZE_WORDS = {
    full: 'full size',
    long: 'long edge',
    short: 'short edge',
    exact: 'exact size',
    megapixels: 'megapixels'
  };
  const METADATA_WORDS = { none: 'none', rights: 'rights and texts only', all: 'all the camera said' };
  const EXISTING_WORDS = { number: 'give the new one a number', replace: 'replace it', skip: 'skip' };
  const lossy = $derived(!['tiff', 'png'].includes(wanted.format));

  const EXAMPLE: TokenValues = {
    job: 'Saltmarsh Library',
    address: 'Saltmarsh Quay',
    client: 'Orla Venn Architects',
    frame: 'SML_0101',
    number: '0101',
    room: 'West front',
    ratio: '4x3',
    date: '2026-05-14',
    deliverable: '',
    counter: '001'
  };
  const ENDINGS = { jpeg: 'jpg', tiff: 'tif', png: 'png', webp: 'webp', avif: 'avif' };
  const example = $derived(
    `${fileName(wanted.pattern, { ...EXAMPLE, deliverable: wanted.name })}.${ENDINGS[wanted.format]}`
  );
  const unknown = $derived(unknownTokens(wanted.pattern));

  let markFile: HTMLInputElement;
  async function takeMark(): Promise<void> {
    const [file] = markFile.files ?? [];
    if (!file || !wanted.watermark) return;
    const bytes = new Uint8Array(await file.arrayBuffer());
    let text = '';
    for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
    wanted.watermark.png = btoa(text);
  }
  const NEW_MARK: Watermark = {
    text: '© Your studio',
    png: null,
    place: 'bottom right',
    size: 18,
    opacity: 60
  };
</script>

<fieldset disabled={fixed}>
  <div class="row">
    <label class="wide">{settings.name.label}<input bind:value={wanted.name} required maxlength="80" /></label
    >
    <label
      >{settings.ratio.label}
      <input list="ratios" bind:value={wanted.ratio} />
      <datalist id="ratios">
        {#each RATIO_CHOICES as ratio (ratio)}<option>{ratio}</option>{/each}
      </datalist>
    </label>
    <label
      >{settings.sizeKind.label}
      <select bind:value={wanted.sizeKind}>
        {#each settings.sizeKind.enum as kind (kind)}<option value={kind}>{SIZE_WORDS[kind]}</option>{/each}
      </select>
    </label>
    {#if wanted.sizeKind === 'megapixels'}
      <label
        >{settings.megapixels.label}<input
          type="number"
          step="any"
          min="0.01"
          bind:value={wanted.megapixels}
        /></label
      >
    {:else if wanted.sizeKind !== 'full'}
      <label
        >{wanted.sizeKind === 'exact' ? 'Width' : 'Edge'} (px)<input
          type="number"
          min="16"
          bind:value={wanted.width}
        /></label
      >
      {#if wanted.sizeKind === 'exact'}
        <label>{settings.height.label} (px)<input type="number" min="16" bind:value={wanted.height} /></label>
      {/if}
    {/if}
    {#if wanted.sizeKind !== 'full'}
      <label class="tick"
        ><input type="checkbox" bind:checked={wanted.enlarge} /> {settings.enlarge.label}</label
      >
    {/if}
  </div>
  <div class="row">
    <label
      >{settings.format.label}
      <select bind:value={wanted.format}>
        {#each settings.format.enum as format (format)}<option value={format}>{format.toUpperCase()}</option
          >{/each}
      </select>
    </label>
    <label
      >{settings.depth.label}
      <select bind:value={wanted.depth} disabled={lossy && wanted.depth === 8}>
        {#each settings.depth.enum as depth (depth)}<option value={depth}>{depth}</option>{/each}
      </select>
    </label>
    <label
      >{settings.quality.label}<input
        type="number"
        min="1"
        max="100"
        bind:value={wanted.quality}
        disabled={!lossy}
      /></label
    >
    <label
      >{settings.limit.label} (kB)
      <input
        type="number"
        min="5"
        placeholder="no limit"
        value={wanted.limit ?? ''}
        disabled={!lossy && wanted.limit === null}
        onchange={(e) => (wanted.limit = e.currentTarget.valueAsNumber || null)}
      />
    </label>
    <label
      >{settings.space.label}
      <select bind:value={wanted.space}>
        {#each settings.space.enum as space (space)}<option value={space}>{RGB_SPACES[space].name}</option
          >{/each}
      </select>
    </label>
    <label>{settings.ppi.label} (ppi)<input type="number" min="1" bind:value={wanted.ppi} /></label>
    <label
      >{settings.sharpening.label}
      <select bind:value={wanted.sharpening}>
        {#each settings.sharpening.enum as kind (kind)}
          <option value={kind}>{kind === 'none' ? 'none' : `for ${kind}`}</option>
        {/each}
      </select>
    </label>
  </div>
  <div class="row">
    <label class="wide"
      >{settings.metadata.label}
      <select bind:value={wanted.metadata}>
        {#each settings.metadata.enum as kind (kind)}<option value={kind}>{METADATA_WORDS[kind]}</option
          >{/each}
      </select>
    </label>
    <label class="tick"
      ><input type="checkbox" bind:checked={wanted.keepPosition} disabled={wanted.metadata !== 'all'} />
      {settings.keepPosition.label}</label
    >
    <label class="wide"
      >{settings.creator.label}<input bind:value={wanted.creator} placeholder="as the file says" /></label
    >
    <label class="wide"
      >{settings.copyright.label}<input bind:value={wanted.copyright} placeholder="as the file says" /></label
    >
  </div>
  <details open={!folded}>
    <summary>Texts and watermark</summary>
    <div class="row">
      <label class="wide">{settings.title.label}<input bind:value={wanted.title} /></label>
      <label class="wider">{settings.caption.label}<input bind:value={wanted.caption} /></label>
      <label class="wide"
        >{settings.keywords.label}<input
          bind:value={wanted.keywords}
          placeholder="with commas between"
        /></label
      >
    </div>
    <div class="row">
      <label class="tick"
        ><input
          type="checkbox"
          checked={wanted.watermark !== null}
          onchange={(e) => (wanted.watermark = e.currentTarget.checked ? { ...NEW_MARK } : null)}
        />
        {settings.watermark.label}</label
      >
      {#if wanted.watermark}
        <label class="wide"
          >Text<input bind:value={wanted.watermark.text} disabled={wanted.watermark.png !== null} /></label
        >
        <label
          >Picture
          <span class="pair">
            <button type="button" class="tool" onclick={() => markFile.click()}
              >{wanted.watermark.png ? 'Another PNG' : 'PNG…'}</button
            >
            {#if wanted.watermark.png}<button
                type="button"
                class="tool"
                onclick={() => (wanted.watermark!.png = null)}>Text again</button
              >{/if}
          </span>
        </label>
        <label
          >Place
          <select bind:value={wanted.watermark.place}>
            {#each PLACES as place (place)}<option>{place}</option>{/each}
          </select>
        </label>
        <label>Width (%)<input type="number" min="2" max="100" bind:value={wanted.watermark.size} /></label>
        <label
          >Opacity (%)<input type="number" min="1" max="100" bind:value={wanted.watermark.opacity} /></label
        >
      {/if}
    </div>
  </details>
  <div class="row">
    <label class="wider"
      >{settings.pattern.label}<input class="mono" bind:value={wanted.pattern} required /></label
    >
    <label class="wide"
      >{settings.existing.label}
      <select bind:value={wanted.existing}>
        {#each settings.existing.enum as kind (kind)}<option value={kind}>{EXISTING_WORDS[kind]}</option
          >{/each}
      </select>
    </label>
  </div>
  <p class="example">
    {#if unknown.length > 0}
      <span class="bad">There is no {`{${unknown[0]}}`}.</span>
    {:else}
      <span class="mono">{example}</span>
    {/if}
    <span class="quiet">Tokens, for texts as well: {TOKENS.map((token) => `{${token}}`).join(' ')}</span>
  </p>
</fieldset>
<input class="hidden" type="file" accept="image/png" bind:this={markFile} onchange={takeMark} />

<style>
  fieldset {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: flex-end;
    padding-bottom: 12px;
    border-bottom: 1px solid var(--soft);
  }
  details {
    border-bottom: 1px solid var(--soft);
  }
  details .row {
    margin-top: 10px;
  }
  details .row:last-child {
    border-bottom: none;
  }
  summary {
    padding-bottom: 8px;
    font-size: 12px;
    cursor: pointer;
  }
  label {
    display: flex;
    flex-direction: column;
    gap: 3px;
    width: 112px;
    font-size: 12px;
    color: var(--faint);
  }
  .wide {
    width: 210px;
  }
  .wider {
    flex: 1;
    min-width: 260px;
  }
  .tick {
    flex-direction: row;
    align-items: center;
    gap: 6px;
    width: auto;
    height: 29px;
    color: var(--ink);
  }
  .pair {
    display: flex;
    gap: 5px;
  }
  input:not([type='checkbox']),
  select {
    height: 29px;
    padding: 0 7px;
    font-size: 13px;
    color: var(--ink);
    border: 1px solid var(--line);
    border-radius: 2px;
    background-color: var(--panel);
  }
  input:disabled,
  select:disabled {
    color: var(--faint);
    background-color: var(--paper);
  }
  .mono {
    font-family: var(--font-mono);
  }
  .example {
    display: flex;
    flex-direction: column;
    gap: 3px;
  }
  .bad {
    color: var(--accent);
  }
</style>
