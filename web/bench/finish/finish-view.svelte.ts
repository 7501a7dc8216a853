import { stepView } from '../parts/step-view.ts';

export type FinishPage = 'sharpening' | 'edge' | 'grain';

export const finishView = stepView(() => {
  const view = $state({ page: 'sharpening' as FinishPage });
  return view;
});
