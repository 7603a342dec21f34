import { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';

const remark = (most: number) => z.string().trim().max(most, `Keep it under ${most} characters.`);

/** What somebody tells of themselves, in their own words; nothing but the alias has to be there. */
export const panelistDraft = z.object({
  alias: z
    .string()
    .trim()
    .min(1, 'Give the person a name; any word will do.')
    .max(40, 'Keep the name under 40 characters.'),
  experience: remark(300),
  hearing: remark(300),
  playback: remark(120),
});
export type PanelistDraft = z.infer<typeof panelistDraft>;

export interface Panelist extends PanelistDraft {
  id: string;
  /** Sittings they took part in, by personal link. */
  sittings: number;
  answers: number;
  minutes: number;
  lastAt: Date | null;
  /** Made up with the demo. */
  simulated: boolean;
}

export const panelQuery = listQueryOf(['name', 'last']);
export type PanelQuery = z.infer<typeof panelQuery>;

/** A page of the panel, and how large the whole is. */
export interface PanelList {
  query: PanelQuery;
  people: Panelist[];
  /** People in whose words the text is that is looked for. */
  found: number;
  all: number;
  /** Given by all of them. */
  minutes: number;
}
