import type { ComponentType } from 'react';
import type { SectionId } from '@/core/statistics/results';
import { AgainstView } from './AgainstView';
import { AttributesView } from './AttributesView';
import { AudibilityView } from './AudibilityView';
import { ControlsView } from './ControlsView';
import { PairView } from './PairView';
import { RatingView } from './RatingView';
import { RecallView } from './RecallView';
import type { ViewProps } from './view';

/** How each section is shown, from top to bottom; some only speak through the findings of others. */
export const SECTION_VIEWS: Partial<Record<SectionId, ComponentType<ViewProps>>> = {
  pair: PairView,
  audibility: AudibilityView,
  against: AgainstView,
  rating: RatingView,
  recall: RecallView,
  attributes: AttributesView,
  controls: ControlsView,
};
