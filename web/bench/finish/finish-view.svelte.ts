import { stepView } from '../parts/step-view.ts';

export type FinishPage = 'noise' | 'sharpening' | 'edge' | 'glow' | 'grain' | 'border';

export const finishView = stepView(() => {
  const view = $state({ page: 'noise' as FinishPage });
  return view;
});
