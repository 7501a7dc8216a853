/** How the toolkit's parts look here: small radii, fine ink lines, compact rows, no rings but the one outline of app.css. */
import type { ThemeConfig } from 'flowbite-svelte';

const FIELD =
  'h-7 rounded-md border-line bg-panel px-2 py-0 text-sm text-ink focus:border-ink focus:ring-0 disabled:opacity-50 ' +
  'dark:border-line dark:bg-panel dark:text-ink dark:focus:border-ink dark:focus:ring-0';
const BOX = 'rounded-md border border-line bg-panel text-ink dark:border-line dark:bg-panel dark:text-ink';

export const theme: ThemeConfig = {
  button: {
    base:
      'h-7 cursor-pointer gap-1.5 rounded-md px-2.25 py-0 text-base font-normal whitespace-nowrap ' +
      'focus-within:ring-0 focus-visible:outline-2 disabled:cursor-default disabled:opacity-45'
  },
  buttonGroup: 'rounded-md shadow-none',
  input: { input: FIELD },
  select: { base: 'w-auto flex-none', select: `${FIELD} py-0 ps-2 pe-7` },
  textarea: { wrapper: `${BOX} p-2` },
  label: 'text-sm font-normal text-ink dark:text-ink',
  checkbox: {
    base: 'me-1.5 h-3.5 w-3.5 rounded-sm border-faint bg-panel text-ink focus:ring-0 dark:border-faint dark:bg-panel dark:checked:bg-primary-500',
    div: 'flex items-center text-sm font-normal text-ink dark:text-ink'
  },
  table: { div: 'overflow-visible', table: 'text-base text-ink dark:text-ink' },
  tableHead: 'bg-panel text-ink normal-case dark:bg-panel dark:text-ink',
  tableHeadCell: 'px-2 py-1.5 font-semibold',
  tableBodyRow: 'border-soft bg-transparent dark:border-soft dark:bg-transparent',
  tableBodyCell: 'px-2 py-1 font-normal',
  modal: {
    base: `${BOX} divide-line shadow-xl dark:divide-line`,
    header: 'px-4 py-2.5 text-lg md:px-4 md:py-2.5 text-ink dark:text-ink',
    body: 'space-y-3 px-4 py-3 md:px-4 md:py-3',
    footer: 'px-4 py-2.5 md:px-4 md:py-2.5'
  },
  progressbar: {
    base: 'rounded-none bg-soft dark:bg-soft',
    inside: 'rounded-none',
    span: 'text-sm',
    progressCls: 'text-sm'
  },
  badge: { base: 'rounded-sm px-1.5 py-0 text-xs font-normal' },
  popover: { base: `${BOX} shadow-lg`, content: 'p-2 text-ink dark:text-ink' }
};
