/** Sound for tests, made and written without the product's own code. */

function noise(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2147483648 - 1;
  };
}

/** A made-up tune of plucked tones with a little hiss, `seconds` long, at 48 kHz. */
export function tune(seconds: number, hiss: number, seed: number): Float64Array {
  const rate = 48000;
  const random = noise(seed);
  return Float64Array.from({ length: seconds * rate }, (_, n) => {
    const t = n / rate;
    const note = [220, 277.2, 329.6, 246.9, 196][Math.floor(t / 0.6) % 5]!;
    const decay = Math.exp(-3 * (t % 0.6));
    let sum = 0;
    for (let k = 1; k <= 8; k++) sum += Math.sin(2 * Math.PI * k * note * t) / (k * k);
    return 0.3 * decay * sum + hiss * random();
  });
}

/** 24-bit mono WAV of samples, late by whole samples, with gain (negative: inverted polarity). */
export function wav24(samples: Float64Array, gain: number, late: number): Buffer {
  return wavOf([samples.map((_, n) => (n >= late ? samples[n - late]! * gain : 0))]);
}

/** 24-bit WAV of any number of channels. */
export function wavOf(channels: Float64Array[]): Buffer {
  const { length: frames } = channels[0]!;
  const block = 3 * channels.length;
  const out = Buffer.alloc(44 + block * frames);
  out.write('RIFF', 0);
  out.writeUInt32LE(36 + block * frames, 4);
  out.write('WAVEfmt ', 8);
  out.writeUInt32LE(16, 16);
  out.writeUInt16LE(1, 20);
  out.writeUInt16LE(channels.length, 22);
  out.writeUInt32LE(48000, 24);
  out.writeUInt32LE(48000 * block, 28);
  out.writeUInt16LE(block, 32);
  out.writeUInt16LE(24, 34);
  out.write('data', 36);
  out.writeUInt32LE(block * frames, 40);
  channels.forEach((samples, c) =>
    samples.forEach((x, n) => {
      const code = Math.round(Math.max(-1, Math.min(1, x)) * 8388607);
      out.writeIntLE(code, 44 + block * n + 3 * c, 3);
    }),
  );
  return out;
}
