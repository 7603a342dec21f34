import { linkWorth, type PricedLinks } from './link-worth';
import { overPanels, type Panels } from './redrawn';
import { toneShare } from './tone-share';

/** Panels in which each chain's strength is moved by what is given for each draw. */
const panelsOf = (strengths: Record<string, number>, moved: Record<string, number[]>): Panels => ({
  chains: Object.keys(strengths),
  strengths: Object.values(strengths),
  redrawn: Object.entries(strengths).map(([chain, own]) =>
    (moved[chain] ?? new Array<number>(41).fill(0)).map((by) => own + by),
  ),
});
const STEPS = Array.from({ length: 41 }, (_, i) => i - 20);

describe('a figure over panels', () => {
  it('is that of the panel, between the 2.5th and the 97.5th of a hundred drawn anew', () => {
    // 41 draws from -20 to 20: the 2.5th percentile is the second, the 97.5th the last but one.
    const panels = panelsOf({ A: 5, B: 2 }, { A: STEPS });
    expect(overPanels(panels, ['A', 'B'], ([a, b]) => a! - b!)).toEqual({
      value: 3,
      from: -16,
      to: 22,
    });
  });

  it('is none where a chain was not heard, or it cannot be reckoned', () => {
    const panels = panelsOf({ A: 5, B: 5 }, {});
    expect(overPanels(panels, ['A', 'C'], ([a]) => a!)).toBeNull();
    expect(overPanels(panels, ['A', 'B'], ([a, b]) => 1 / (a! - b!))).toBeNull();
    expect(overPanels({ ...panels, redrawn: [[], []] }, ['A'], ([a]) => a!)).toBeNull();
  });
});

describe('what one more hundred buys', () => {
  const made = (
    chain: string,
    euros: number,
    microphone: string,
    preamp: string,
    ...more: PricedLinks['items']
  ): PricedLinks => ({
    chain,
    priceCents: euros * 100,
    items: [{ id: microphone, kind: 'microphone' }, { id: preamp, kind: 'preamp' }, ...more],
  });
  // Two microphones by two preamps: microphone b costs 200 more and is liked 3 more with p, 5 with q; preamp q costs
  // 400 more and is liked 0 more with a, 2 with b.
  const four = [
    made('ap', 500, 'a', 'p'),
    made('bp', 700, 'b', 'p'),
    made('aq', 900, 'a', 'q'),
    made('bq', 1100, 'b', 'q'),
  ];
  const strengths = { ap: 0, bp: 3, aq: 0, bq: 5 };

  it('is told apart by link, over chains that differ there alone', () => {
    const worth = linkWorth(panelsOf(strengths, {}), four);
    expect(worth.map(({ link, pairs, apartCents }) => [link, pairs, apartCents])).toEqual([
      ['microphone', 2, [20_000, 20_000]],
      ['preamp', 2, [40_000, 40_000]],
    ]);
    // (2·3 + 2·5) / (4 + 4) and (4·0 + 4·2) / (16 + 16).
    expect(worth[0]!.perHundred.value).toBeCloseTo(2, 12);
    expect(worth[1]!.perHundred.value).toBeCloseTo(0.25, 12);
    // Whichever stands first.
    expect(linkWorth(panelsOf(strengths, {}), [...four].reverse())[0]!.perHundred.value).toBe(2);
  });

  it('has the interval of the panels: bq moved by up to 20 moves the microphone’s slope by a quarter of it', () => {
    const [microphone] = linkWorth(panelsOf(strengths, { bq: STEPS }), four);
    expect(microphone!.perHundred.from).toBeCloseTo(2 - 19 / 4, 12);
    expect(microphone!.perHundred.to).toBeCloseTo(2 + 19 / 4, 12);
  });

  it('leaves out what differs in two links, in number, in kind, not in price, or was not heard', () => {
    const pad = { id: 'pad', kind: 'pad' } as const;
    const panels = panelsOf({ ...strengths, other: 1 }, {});
    for (const others of [
      [four[0]!, four[3]!],
      [four[0]!, made('bp', 700, 'a', 'p', pad)],
      [four[0]!, made('bp', 500, 'b', 'p')],
      [four[0]!, made('unheard', 700, 'b', 'p')],
      [four[0]!, { ...four[1]!, items: [pad, { id: 'p', kind: 'preamp' as const }] }],
    ]) {
      expect(linkWorth(panels, others)).toEqual([]);
    }
    // A pair of one microphone against a pair of another differs in two items.
    const [twice, pair] = [made('ap', 500, 'a', 'p'), made('bp', 700, 'b', 'p')].map((one) => ({
      ...one,
      items: [one.items[0]!, ...one.items],
    }));
    expect(linkWorth(panels, [twice!, pair!])).toEqual([]);
  });
});

describe('how much of a preference is EQ', () => {
  const three = { plain: 'B', toned: 'B as A', target: 'A' };

  it('is what the lead loses once the other has the tone of the leader', () => {
    // A leads by 8; the toned one makes up 6 of it: a quarter is left.
    const share = toneShare(panelsOf({ A: 8, B: 0, 'B as A': 6 }, {}), three);
    expect(share?.lead.value).toBe(8);
    expect(share?.left?.value).toBeCloseTo(0.25, 12);
    expect(toneShare(panelsOf({ A: 8, B: 0, 'B as A': 10 }, {}), three)?.left?.value).toBe(-0.25);
    expect(toneShare(panelsOf({ A: -8, B: 0, 'B as A': -2 }, {}), three)?.left?.value).toBe(0.75);
  });

  it('cannot be told where no lead is shown', () => {
    const panels = panelsOf({ A: 8, B: 0, 'B as A': 6 }, { A: STEPS });
    expect(toneShare(panels, three)).toMatchObject({ lead: { from: -11, to: 27 }, left: null });
  });

  it('is none where one of the three was not heard', () => {
    expect(toneShare(panelsOf({ A: 8, B: 0 }, {}), three)).toBeNull();
    expect(toneShare(panelsOf({ A: 8, 'B as A': 0 }, {}), three)).toBeNull();
  });
});
