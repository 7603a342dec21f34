/** A made-up microphone preamp. */
export interface PreampModel {
  name: string;
  maxGainDb: number;
  /** Equivalent input noise, unweighted 20 kHz, 200 Ω, dBu. */
  einDbu: number;
  /** Second and third harmonic at full output, dB below the tone; the colour of its output stage. */
  harmonicsDb: [number, number];
  lowCutHz: number;
  highCutHz: number;
  maxOutputDbu: number;
}

export const PREAMPS: readonly PreampModel[] = [
  {
    name: 'Linie 2',
    maxGainDb: 66,
    einDbu: -127,
    harmonicsDb: [-92, -100],
    lowCutHz: 8,
    highCutHz: 60000,
    maxOutputDbu: 24,
  },
  {
    name: 'Tarn 1',
    maxGainDb: 70,
    einDbu: -125,
    harmonicsDb: [-46, -52],
    lowCutHz: 18,
    highCutHz: 26000,
    maxOutputDbu: 22,
  },
  {
    name: 'Pfad 4',
    maxGainDb: 54,
    einDbu: -120,
    harmonicsDb: [-74, -70],
    lowCutHz: 30,
    highCutHz: 22000,
    maxOutputDbu: 16,
  },
];
