import TABLES from '../tables.json';
import { CARRIED } from './tables';

/** What a comparison leaves behind when it moves to another bank, and why. */
const STAYS: Record<string, readonly string[]> = {
  'there already': ['comparison'],
  'on its way, or in the bin': [
    'upload',
    'archive',
    'bench_order',
    'removed_take',
    'removed_source',
    'removed_passage',
  ],
  'the panel’s, or somebody’s own': [
    'panelist',
    'listener_link',
    'seat_device',
    'conductor_link',
    'heard_by_name',
    'caution_read',
    'ear_session',
    'ear_answer',
    'ear_link',
    'ear_sound',
    'ear_test',
  ],
  'worked out anew': ['chain_standing', 'panel_forecast'],
  'over several comparisons': ['joint_reading', 'joint_sitting'],
};

it('every table of a step goes along, or stays for a reason', () => {
  const { platform, ...steps } = TABLES;
  const all = Object.values(steps).flat();
  const named = [...CARRIED.map(({ table }) => table), ...Object.values(STAYS).flat()];
  expect([...named].sort()).toEqual([...all].sort());
  expect(platform).toContain('audio');
});
