<!-- All settings of a deliverable, in the order of its making: picture, file, rights, watermark, name. -->
<script lang="ts">
  import { hint } from '$lib/hints/hint.ts';
  import { Button, Checkbox, Fileupload, Input, Select } from 'flowbite-svelte';
  import { RGB_SPACES } from '$core/colour/rgb-spaces.ts';
  import { RATIOS } from '$core/picture/output/ratios.ts';
  import {
    AS_CROPPED,
    type Deliverable,
    PLACES,
    type Watermark,
    deliverableSchema
  } from '$core/picture/output/deliverable-schema.ts';
  import FieldFault from '$lib/FieldFault.svelte';
  import type { FormFault } from '$lib/call.ts';
  import { TOKENS, type TokenValues, fileName, unknownTokens } from '$core/picture/output/file-name.ts';
  import { ENDINGS, type NamedFrame, type NamedJob, tokensOf } from '$core/picture/output/file-tokens.ts';

  interface Props {
    wanted: Deliverable;
    /** Nothing can be changed. */
    fixed?: boolean;
    /** Texts and watermark are shown when asked for. */
    folded?: boolean;
    /** The job and frame that the example of a file name is of; else one that is made up. */
    named?: { job: NamedJob; frame: NamedFrame };
    /** What is wrong with it. */
    fault: FormFault | null;
  }
  let { wanted = $bindable(), fixed = false, folded = false, named, fault }: Props = $props();
  const settings = deliverableSchema.properties;
  const RATIO_CHOICES = [AS_CROPPED, ...RATIOS.filter((ratio) => ratio !== 'free'), '2:3', '3:4', '9:16'];
  const SIZE_WORDS = {
    full: 'full size',
    long: 'long edge',
    short: 'short edge',
    exact: 'exact size',
    megapixels: 'megapixels'
  };
  const DISCLOSED = {
    none: 'in the report only',
    metadata: 'in the metadata',
    caption: 'in the caption, too'
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
    counter: '001',
    revision: 'B',
    'revision-name': 'dusk'
  };
  const example = $derived(
    `${fileName(wanted.pattern, named ? tokensOf(named.job, named.frame, wanted, 1) : { ...EXAMPLE, deliverable: wanted.name })}.${ENDINGS[wanted.format]}`
  );
  const unknown = $derived(unknownTokens(wanted.pattern));

  let markFile = $state<HTMLInputElement>();
  async function takeMark(): Promise<void> {
    const [file] = markFile?.files ?? [];
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

<fieldset class="flex flex-col gap-3" disabled={fixed}>
  <div class="row flex flex-wrap gap-3 items-end pb-3 border-b border-b-soft">
    <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
      >{settings.name.label}<Input bind:value={wanted.name} required maxlength={80} /></label
    >
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.ratio.label}
      <Input list="ratios" bind:value={wanted.ratio} />
      <datalist id="ratios">
        {#each RATIO_CHOICES as ratio (ratio)}<option>{ratio}</option>{/each}
      </datalist>
    </label>
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.sizeKind.label}
      <Select placeholder="" bind:value={wanted.sizeKind}>
        {#each settings.sizeKind.enum as kind (kind)}<option value={kind}>{SIZE_WORDS[kind]}</option>{/each}
      </Select>
    </label>
    {#if wanted.sizeKind === 'megapixels'}
      <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
        >{settings.megapixels.label}<Input
          type="number"
          step="any"
          min="0.01"
          bind:value={wanted.megapixels}
        /></label
      >
    {:else if wanted.sizeKind !== 'full'}
      <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
        >{wanted.sizeKind === 'exact' ? 'Width' : 'Edge'} (px)<Input
          type="number"
          min="16"
          bind:value={wanted.width}
        /></label
      >
      {#if wanted.sizeKind === 'exact'}
        <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
          >{settings.height.label} (px)<Input type="number" min="16" bind:value={wanted.height} /></label
        >
      {/if}
    {/if}
    {#if wanted.sizeKind !== 'full'}
      <label class="flex text-sm flex-row items-center gap-1.5 w-auto h-7.25 text-ink"
        ><Checkbox bind:checked={wanted.enlarge} />
        {settings.enlarge.label}</label
      >
    {/if}
    <FieldFault {fault} of={['name', 'ratio', 'sizeKind', 'width', 'height', 'megapixels']} />
  </div>
  <div class="row flex flex-wrap gap-3 items-end pb-3 border-b border-b-soft">
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.format.label}
      <Select placeholder="" bind:value={wanted.format}>
        {#each settings.format.enum as format (format)}<option value={format}>{format.toUpperCase()}</option
          >{/each}
      </Select>
    </label>
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.depth.label}
      <Select placeholder="" bind:value={wanted.depth} disabled={lossy && wanted.depth === 8}>
        {#each settings.depth.enum as depth (depth)}<option value={depth}>{depth}</option>{/each}
      </Select>
    </label>
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.quality.label}<Input
        type="number"
        min="1"
        max="100"
        bind:value={wanted.quality}
        disabled={!lossy}
      /></label
    >
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.limit.label} (kB)
      <Input
        type="number"
        min="5"
        placeholder="no limit"
        value={wanted.limit ?? ''}
        disabled={!lossy && wanted.limit === null}
        onchange={(e) => (wanted.limit = e.currentTarget.valueAsNumber || null)}
      />
    </label>
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.space.label}
      <Select placeholder="" bind:value={wanted.space}>
        {#each settings.space.enum as space (space)}<option value={space}>{RGB_SPACES[space].name}</option
          >{/each}
      </Select>
    </label>
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.ppi.label} (ppi)<Input type="number" min="1" bind:value={wanted.ppi} /></label
    >
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
      >{settings.sharpening.label}
      <Select placeholder="" bind:value={wanted.sharpening}>
        {#each settings.sharpening.enum as kind (kind)}
          <option value={kind}>{kind === 'none' ? 'none' : `for ${kind}`}</option>
        {/each}
      </Select>
    </label>
    <FieldFault {fault} of={['format', 'depth', 'quality', 'limit', 'space', 'ppi', 'sharpening']} />
  </div>
  <div class="row flex flex-wrap gap-3 items-end pb-3 border-b border-b-soft">
    <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
      >{settings.metadata.label}
      <Select placeholder="" bind:value={wanted.metadata}>
        {#each settings.metadata.enum as kind (kind)}<option value={kind}>{METADATA_WORDS[kind]}</option
          >{/each}
      </Select>
    </label>
    <label class="flex text-sm flex-row items-center gap-1.5 w-auto h-7.25 text-ink"
      ><Checkbox bind:checked={wanted.keepPosition} disabled={wanted.metadata !== 'all'} />
      {settings.keepPosition.label}</label
    >
    <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5" {...hint(settings.disclosure.description)}
      >{settings.disclosure.label}
      <Select placeholder="" bind:value={wanted.disclosure}>
        {#each settings.disclosure.enum as kind (kind)}<option value={kind}>{DISCLOSED[kind]}</option>{/each}
      </Select>
    </label>
    <label
      class="flex text-sm flex-row items-center gap-1.5 w-auto h-7.25 text-ink"
      {...hint(settings.onlyDust.description)}
      ><Checkbox bind:checked={wanted.onlyDust} />
      {settings.onlyDust.label}</label
    >
    <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
      >{settings.creator.label}<Input bind:value={wanted.creator} placeholder="as the file says" /></label
    >
    <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
      >{settings.copyright.label}<Input bind:value={wanted.copyright} placeholder="as the file says" /></label
    >
  </div>
  <details class="border-b border-b-soft" open={!folded}>
    <summary class="pb-2 text-sm cursor-pointer">Texts and watermark</summary>
    <div class="row flex flex-wrap gap-3 items-end pb-3 border-b border-b-soft">
      <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
        >{settings.title.label}<Input bind:value={wanted.title} /></label
      >
      <label class="flex flex-col gap-0.75 w-28 text-sm text-faint flex-1 min-w-65"
        >{settings.caption.label}<Input bind:value={wanted.caption} /></label
      >
      <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
        >{settings.keywords.label}<Input
          bind:value={wanted.keywords}
          placeholder="with commas between"
        /></label
      >
    </div>
    <div class="row flex flex-wrap gap-3 items-end pb-3 border-b border-b-soft">
      <label class="flex text-sm flex-row items-center gap-1.5 w-auto h-7.25 text-ink"
        ><Checkbox
          checked={wanted.watermark !== null}
          onchange={(e) => (wanted.watermark = e.currentTarget.checked ? { ...NEW_MARK } : null)}
        />
        {settings.watermark.label}</label
      >
      {#if wanted.watermark}
        <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
          >Text<Input bind:value={wanted.watermark.text} disabled={wanted.watermark.png !== null} /></label
        >
        <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
          >Picture
          <span class="flex gap-1.25">
            <Button color="light" onclick={() => markFile?.click()}
              >{wanted.watermark.png ? 'Another PNG' : 'PNG…'}</Button
            >
            {#if wanted.watermark.png}<Button color="light" onclick={() => (wanted.watermark!.png = null)}
                >Text again</Button
              >{/if}
          </span>
        </label>
        <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
          >Place
          <Select placeholder="" bind:value={wanted.watermark.place}>
            {#each PLACES as place (place)}<option>{place}</option>{/each}
          </Select>
        </label>
        <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
          >Width (%)<Input type="number" min="2" max="100" bind:value={wanted.watermark.size} /></label
        >
        <label class="flex flex-col gap-0.75 w-28 text-sm text-faint"
          >Opacity (%)<Input type="number" min="1" max="100" bind:value={wanted.watermark.opacity} /></label
        >
      {/if}
      <FieldFault {fault} of={['title', 'caption', 'keywords', 'watermark']} />
    </div>
  </details>
  <div class="row flex flex-wrap gap-3 items-end pb-3 border-b border-b-soft">
    <label class="flex flex-col gap-0.75 w-28 text-sm text-faint flex-1 min-w-65"
      >{settings.pattern.label}<Input class="font-mono" bind:value={wanted.pattern} required /></label
    >
    <label class="flex flex-col gap-0.75 text-sm text-faint w-52.5"
      >{settings.existing.label}
      <Select placeholder="" bind:value={wanted.existing}>
        {#each settings.existing.enum as kind (kind)}<option value={kind}>{EXISTING_WORDS[kind]}</option
          >{/each}
      </Select>
    </label>
  </div>
  <FieldFault {fault} of={['pattern', 'existing']} />
  <p class="example flex flex-col gap-0.75">
    {#if unknown.length > 0}
      <span class="text-accent">There is no {`{${unknown[0]}}`}.</span>
    {:else}
      <span class="mono font-mono">{example}</span>
    {/if}
    <span class="quiet">Tokens, for texts as well: {TOKENS.map((token) => `{${token}}`).join(' ')}</span>
  </p>
</fieldset>
<Fileupload class="hidden" accept="image/png" bind:elementRef={markFile} onchange={takeMark} />

<style>
  details .row {
    margin-top: 10px;
  }
  details .row:last-child {
    border-bottom: none;
  }
</style>
