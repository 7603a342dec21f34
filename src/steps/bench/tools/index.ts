import { cost } from './cost';
import { decibels } from './decibels';
import { distance } from './distance';
import { gain } from './gain';
import { loading } from './loading';
import { stereo } from './stereo';
import type { Field, Tool } from './tool';
import { numberFault, readNumber } from '@/core/text/numbers';

export const TOOLS: readonly Tool[] = [gain, loading, distance, stereo, decibels, cost];

/** What is wrong with what stands in a field; null when nothing is. */
export function faultOf({ range, choices, label }: Field, text: string): string | null {
  if (choices) return choices.includes(text) ? null : `${label}: ${choices.join(', ')}.`;
  if (!range) return text.length > 4000 ? 'This is too long.' : null;
  const value = readNumber(text);
  if (value === null) return text.trim() === '' ? 'Write a number.' : numberFault(text);
  return value < range[0] || value > range[1] ? `Between ${range[0]} and ${range[1]}.` : null;
}
