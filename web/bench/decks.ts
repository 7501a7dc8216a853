/** The deck of each step. */
import type { Component } from 'svelte';
import type { StepName } from '$core/recipe/steps.ts';
import CropDeck from './CropDeck.svelte';
import LensDeck from './LensDeck.svelte';
import LinesDeck from './LinesDeck.svelte';
import type { DeckProps } from './deck.ts';

export const DECKS: Record<StepName, Component<DeckProps>> = {
  lens: LensDeck,
  lines: LinesDeck,
  crop: CropDeck
};
