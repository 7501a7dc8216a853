import { describe, expect, it } from 'vitest';
import type { JobSummary } from '$server/jobs/jobs.ts';
import { jobsShown, nameFor } from './job-order.ts';

const job = (name: string, client: string, made: string, due: string | null, put_away = false): JobSummary =>
  ({ name, client, site: 'Ebbfleetham', made, due, put_away }) as JobSummary;
const JOBS = [
  job('Quay 10', 'Venn', '2026-01-02T00:00:00', null),
  job('Quay 9', 'Larch', '2026-03-02T00:00:00', '2026-12-24'),
  job('Mill', 'Venn', '2026-02-02T00:00:00', '2026-12-01'),
  job('Old mill', 'Venn', '2025-02-02T00:00:00', null, true)
];
const names = (text: string, order: Parameters<typeof jobsShown>[1]['order'], away = false): string =>
  jobsShown(JOBS, { text, order, away })
    .map(({ name }) => name)
    .join(', ');

describe('the jobs that are shown', () => {
  it('come in the order that is asked for', () => {
    expect(names('', 'newest')).toBe('Quay 9, Mill, Quay 10');
    expect(names('', 'by name')).toBe('Mill, Quay 9, Quay 10');
    expect(names('', 'by client')).toBe('Quay 9, Mill, Quay 10');
    expect(names('', 'by due day')).toBe('Mill, Quay 9, Quay 10');
  });
  it('are found by words of name, client and site, those put away by themselves', () => {
    expect(names('venn quay', 'newest')).toBe('Quay 10');
    expect(names('EBBFLEET', 'by name')).toBe('Mill, Quay 9, Quay 10');
    expect(names('mill', 'newest')).toBe('Mill');
    expect(names('mill', 'newest', true)).toBe('Old mill');
  });
  it('are named after the folder or the first file that was dropped', () => {
    expect(nameFor([{ name: 'SML_0101.dng', webkitRelativePath: 'Quay House/SML_0101.dng' }])).toBe(
      'Quay House'
    );
    expect(nameFor([{ name: 'SML_0101.dng' }, { name: 'X.dng' }])).toBe('SML');
    expect(nameFor([{ name: '0101.dng' }])).toBe('New job');
  });
});
