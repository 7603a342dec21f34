import { amplitudeToDb } from '@/core/signal/units';
import { polarGain, roomPickupDb, splAtDb } from '../acoustics';
import { A_WEIGHTED_WHITE_DB, addPowersDb, DBV_IN_DBU, thermalNoiseDbu } from '../electric';
import { isPassive, loadingEffect, microphoneImpedance } from '../impedance';
import { PATTERNS, specsAs } from '../specs';
import type { Assume, KindOfGear, Placed } from './kind';

export const microphone = {
  id: 'microphone',
  link: 'microphone',
  role: 'microphone',
  specs: [
    'type',
    'powering',
    'patterns',
    'sensitivityDb',
    'selfNoiseDba',
    'maxSplDb',
    'perPattern',
    'maxSplThdPct',
    'resonanceHz',
    'resonanceOhm',
    'resonanceQ',
    'inductanceMh',
    'outputImpedanceOhm',
    'padsDb',
    'highPassHz',
  ],
  hasSwitches: true,
  takesCurves: true,
  namesChain: true,
} as const satisfies KindOfGear;

const USUAL = { sensitivityDb: { passive: -55, powered: -36 }, selfNoiseDba: 16 };

/** How the source is heard by the microphone. */
export interface SourceAtMic {
  /** Average (long-term rms) level at 1 m, dB SPL. */
  levelAt1MDb: number;
  /** Sample peak over rms, dB; 3 for a sine, 12 to 20 for voices and instruments. */
  crestDb: number;
  distanceM: number;
  angleDeg: number;
  /** Background of the room at an omni, dBA; null when not known. */
  roomNoiseDba: number | null;
}

/** Sound as a microphone meets it. */
export interface SoundAtMic {
  /** Average, weakened by the angle, dB SPL. */
  splDb: number;
  /** What the angle takes, dB. */
  offAxisDb: number;
  /** Background of the room as the pattern picks it up, dBA; null when not known. */
  roomDba: number | null;
}

export function soundAt(
  { name, specs, settings }: Placed,
  source: SourceAtMic,
  assume: Assume,
): SoundAtMic {
  const pattern = settings.pattern ?? specs.patterns?.[0];
  if (!pattern) assume(`${name}: cardioid`);
  const p = PATTERNS[pattern ?? 'cardioid'];
  const offAxisDb = Math.max(-60, amplitudeToDb(polarGain(p, source.angleDeg)));
  return {
    offAxisDb,
    splDb: splAtDb(source.levelAt1MDb, source.distanceM) + offAxisDb,
    roomDba: source.roomNoiseDba === null ? null : source.roomNoiseDba + roomPickupDb(p),
  };
}

/**
 * A microphone's voltage into a load.
 * @param loadOhm resistive; infinite for none
 * @returns levels in dBu as for every stage, the room left in dB, and what the load does
 */
export function microphoneStage(
  mic: Placed,
  { splDb, roomDba }: SoundAtMic,
  peakOverAverageDb: number,
  loadOhm: number,
  assume: Assume,
) {
  const { name, settings } = mic;
  const specs = specsAs(mic.specs, settings.pattern);
  const passive = isPassive(specs);
  const padDb = settings.padDb ?? 0;
  const usualDb = passive ? USUAL.sensitivityDb.passive : USUAL.sensitivityDb.powered;
  if (specs.sensitivityDb === undefined) assume(`${name}: sensitivity ${usualDb} dB re 1 V/Pa`);
  const sensitivityDb = (specs.sensitivityDb ?? usualDb) - padDb;
  const impedance = microphoneImpedance(specs, mic.impedanceCurve);
  if (impedance.assumed) assume(`${name}: ${impedance.assumed}`);
  const loading = Number.isFinite(loadOhm) ? loadingEffect(impedance.at, loadOhm) : null;
  const loadedBy = loading?.dropDb ?? 0;
  const toDbu = (dbSpl: number) => sensitivityDb + (dbSpl - 94) + DBV_IN_DBU + loadedBy;
  const selfDbu = () => {
    // A pad sits behind the capsule's amplifier noise or before it; before is the worse case.
    if (specs.selfNoiseDba !== undefined) return toDbu(specs.selfNoiseDba + padDb);
    if (passive) return thermalNoiseDbu(impedance.at(1000).re) + A_WEIGHTED_WHITE_DB + loadedBy;
    assume(`${name}: self-noise ${USUAL.selfNoiseDba} dBA`);
    return toDbu(USUAL.selfNoiseDba + padDb);
  };
  return {
    signalDbu: toDbu(splDb),
    noiseDbu: addPowersDb(roomDba === null ? [selfDbu()] : [selfDbu(), toDbu(roomDba)]),
    sourceOhm: impedance.nominalOhm,
    headroomDb:
      specs.maxSplDb === undefined ? null : specs.maxSplDb + padDb - (splDb + peakOverAverageDb),
    loading,
  };
}
