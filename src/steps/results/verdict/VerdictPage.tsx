import { FACES, PAPERS } from '@/ui/tokens';
import type { PicturePlace } from '../across';

/** What a verdict's file says and holds; everything by name. */
export interface VerdictFacts {
  title: string;
  closed: string;
  question: string;
  headline: string;
  /** What must be read before anything else. */
  cautions: string[];
  answers: { asked: string; sentence: string; figure: string }[];
  picture: PicturePlace[];
  limits: string[];
  conditions: string[];
  chains: string[];
  parts: string[];
  seal: string;
  key: string;
  /** When it was fixed, and what it covers. */
  sealed: string;
  methods: string;
  /** The two chains that can be tried blind; null where the sound is not in the file. */
  pair: [string, string] | null;
  /** Why there is no sound, where there is none. */
  silent: string | null;
}

const { paper, sheet, card, ink, soft, rule, hair, pen, onPen, ochre, ochreWash, wave } =
  PAPERS.light;

const STYLE = `
:root{color-scheme:light}
body{margin:0;background:${paper};color:${ink};font:16px/1.5 ${FACES.sans}}
main{max-width:760px;margin:24px auto;padding:24px 32px;background:${sheet};border:1px solid ${rule}}
h1,h2,dd.say{font-family:${FACES.serif}}
h1{font-size:28px;line-height:1.2;margin:4px 0 12px}h2{font-size:19px;border-top:1px solid ${rule};padding-top:12px;margin:28px 0 8px}
.soft{color:${soft};font-size:14px}.mono{font-family:${FACES.mono};font-size:13px;overflow-wrap:anywhere}
dl{margin:0;border-top:1px solid ${ink}}dl div{display:grid;grid-template-columns:150px 1fr auto;gap:4px 16px;padding:8px 0;border-bottom:1px solid ${hair}}
dt{color:${soft};font-weight:600;font-size:14px}dd{margin:0}dd.say{font-weight:600}
.note{border-left:3px solid ${ochre};background:${ochreWash};padding:8px 12px;margin:12px 0}
button{font:inherit;font-weight:600;color:${pen};background:${card};border:1px solid ${rule};border-radius:4px;padding:9px 16px;margin:4px 8px 4px 0;cursor:pointer}
button:focus-visible{outline:3px solid ${pen};outline-offset:2px}button:disabled{color:${wave};cursor:default}
button[aria-pressed=true]{background:${pen};color:${onPen}}
figure{margin:12px 0}.wide{overflow-x:auto}svg{width:100%;min-width:600px;height:auto}details{margin:8px 0}pre{white-space:pre-wrap;overflow-wrap:anywhere;max-height:240px;overflow:auto}
[hidden]{display:none}
@media(max-width:560px){main{margin:0;padding:16px;border:0}dl div{grid-template-columns:1fr}}
@media print{body{background:#fff}main{border:0;margin:0;max-width:none}button,#try{display:none}h2{break-after:avoid}}
`;

const ROW = 26;
const LEFT = 240;
const WIDTH = 760;
const across = (value: number) => LEFT + ((WIDTH - LEFT - 20) * value) / 100;

/** Each chain of a place on one scale, 0 to 100, with its interval. */
function Place({
  order,
  place: { place, unit, claimed, chains },
}: {
  /** Chains as the first place orders them, so that one that moves is seen to. */
  order: readonly string[];
  place: PicturePlace;
}) {
  const rows = order.flatMap((name) =>
    chains.flatMap((own) =>
      own.chain === name && own.value !== null ? [{ ...own, value: own.value }] : [],
    ),
  );
  const height = ROW * rows.length + 34;
  const name =
    unit === 'share' ? 'Share of choices against an average chain' : 'Points of the line';
  const said = rows.map(({ chain, value }) => `${chain} ${value.toFixed(0)}`).join(', ');
  return (
    <figure>
      <div className="wide" role="region" aria-label={place || name} tabIndex={0}>
        <svg viewBox={`0 0 ${WIDTH} ${height}`} role="img" aria-label={`${name}: ${said}`}>
          {[0, 50, 100].map((mark) => (
            <g key={mark}>
              <line
                x1={across(mark)}
                x2={across(mark)}
                y1={4}
                y2={height - 28}
                stroke={rule}
                strokeDasharray={mark === 50 ? '2 3' : undefined}
              />
              <text x={across(mark)} y={height - 10} fontSize="12" textAnchor="middle" fill={soft}>
                {mark}
              </text>
            </g>
          ))}
          {rows.map(({ chain, value, from, to, leads }, i) => {
            const y = ROW * i + 18;
            return (
              <g key={chain}>
                <text x={0} y={y + 4} fontSize="14" fill={ink}>
                  {chain}
                </text>
                {from !== null && to !== null && (
                  <line
                    x1={across(from)}
                    x2={across(to)}
                    y1={y}
                    y2={y}
                    stroke={pen}
                    strokeWidth="2"
                  />
                )}
                <circle
                  cx={across(value)}
                  cy={y}
                  r="6"
                  stroke={pen}
                  strokeWidth="2"
                  fill={claimed && leads ? pen : sheet}
                />
              </g>
            );
          })}
        </svg>
      </div>
      <figcaption className="soft">
        {place && `${place.charAt(0).toUpperCase()}${place.slice(1)}. `}
        {name}, with 95 % intervals over listeners.
        {claimed ? ' Filled: may be the best there.' : ' No chain is filled: nothing is claimed.'}
      </figcaption>
    </figure>
  );
}

/** Text inside of a script element, where no sign may end it. */
const inScript = (text: string) => ({ __html: text.replace(/</g, '\\u003c') });

/** The whole of a verdict's file: it is read, heard and checked without a network. */
export function VerdictPage({
  facts,
  clips,
  player,
}: {
  facts: VerdictFacts;
  /** Of the pair, in Base64; empty without. */
  clips: readonly string[];
  player: string;
}) {
  const { pair, picture } = facts;
  const first = picture[0]?.chains ?? [];
  const order = [
    ...new Set(
      [...first]
        .sort((x, y) => (y.value ?? -1) - (x.value ?? -1))
        .concat(picture.flatMap(({ chains }) => chains))
        .map(({ chain }) => chain),
    ),
  ];
  return (
    <html lang="en">
      {/* eslint-disable-next-line @next/next/no-head-element -- a file of its own, no page of the application */}
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta
          httpEquiv="Content-Security-Policy"
          content="default-src 'none'; script-src 'unsafe-inline'; style-src 'unsafe-inline'"
        />
        <title>{`Verdict: ${facts.title}`}</title>
        <style dangerouslySetInnerHTML={{ __html: STYLE }} />
      </head>
      <body>
        <main>
          <div className="soft">
            {facts.title} · {facts.closed}
          </div>
          <h1>{facts.headline}</h1>
          {facts.question && <p>{facts.question}</p>}
          {facts.cautions.map((caution) => (
            <p key={caution} className="note">
              {caution}
            </p>
          ))}
          <dl>
            {facts.answers.map(({ asked, sentence, figure }) => (
              <div key={asked}>
                <dt>{asked}</dt>
                <dd className="say">{sentence}</dd>
                <dd className="mono">{figure}</dd>
              </div>
            ))}
          </dl>
          {facts.picture.map((place) => (
            <Place key={place.part} order={order} place={place} />
          ))}
          <h2>What this does not show</h2>
          <ul>
            {facts.limits.map((limit) => (
              <li key={limit}>{limit}</li>
            ))}
          </ul>
          <section id="try">
            <h2>Hear it yourself, blind</h2>
            {pair ? (
              <>
                <p>
                  The two that stood first, at the levels that the panel heard, in eight rounds;
                  which comes first is drawn anew each time, and the names come after the last
                  round. Set a comfortable level with the first sound and leave it there. Loud
                  listening harms hearing; take breaks.
                </p>
                <button id="begin" type="button">
                  Begin
                </button>
                <div id="round" hidden>
                  <p id="count" role="status" />
                  <button type="button" data-hear="0" aria-pressed="false">
                    Hear one
                  </button>
                  <button type="button" data-hear="1" aria-pressed="false">
                    Hear two
                  </button>
                  <p className="soft">Or keys 1 and 2; it goes on at the same place.</p>
                  <button type="button" data-said="first">
                    One suits better
                  </button>
                  <button type="button" data-said="second">
                    Two suits better
                  </button>
                  <button type="button" data-said="neither">
                    No difference
                  </button>
                </div>
                <p id="outcome" role="status" />
              </>
            ) : (
              <p>{facts.silent}</p>
            )}
          </section>
          <h2>Who heard what</h2>
          {facts.conditions.map((line) => (
            <p key={line}>{line}</p>
          ))}
          <ul>
            {facts.chains.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <ol>
            {facts.parts.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
          <h2>The seal</h2>
          <p>{facts.sealed}</p>
          <p id="seal" className="mono">
            {facts.seal}
          </p>
          <p>
            The key is in this file. “Check” works out its SHA-256 in your browser; to trust no
            program of ours, save the key and run <code>sha256sum key.json</code>.
          </p>
          <button id="check-seal" type="button">
            Check
          </button>
          <button id="save-key" type="button">
            Save the key
          </button>
          <p id="seal-found" role="status" />
          <details>
            <summary>The key: which word was which chain</summary>
            <pre id="key-text" className="mono">
              {facts.key}
            </pre>
          </details>
          <h2>Methods</h2>
          <p className="soft">{facts.methods}</p>
        </main>
        {clips.map((base64, i) => (
          <script
            key={i}
            id={`clip-${i}`}
            type="text/plain"
            dangerouslySetInnerHTML={inScript(base64)}
          />
        ))}
        {pair && (
          <script
            id="pair-names"
            type="application/json"
            dangerouslySetInnerHTML={inScript(JSON.stringify(pair))}
          />
        )}
        <script dangerouslySetInnerHTML={{ __html: player }} />
      </body>
    </html>
  );
}
