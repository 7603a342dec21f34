import { parseArgs, type ParseArgsConfig } from 'node:util';
import type { MatchMethod } from '@/core/matching/methods';
import { InputError } from './errors';

const METHODS: readonly MatchMethod[] = ['loudness', 'rms', 'tone'];

function parse<T extends NonNullable<ParseArgsConfig['options']>>(
  command: string,
  args: string[],
  options: T,
) {
  try {
    return parseArgs({ args, options, allowPositionals: true, strict: true });
  } catch (error) {
    const [firstLine] = (error as Error).message.split(/[.\n]/);
    throw new InputError(`${command}: ${firstLine}`);
  }
}

function wholeNumber(command: string, text: string): number {
  const value = Number(text);
  if (!/^\d+$/.test(text) || !Number.isSafeInteger(value)) {
    throw new InputError(`${command}: the seed "${text}" is not a whole number`);
  }
  return value;
}

function target(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  if (!/^-?\d+(\.\d+)?$/.test(text)) {
    throw new InputError(`match: the target "${text}" is not a number of LUFS`);
  }
  return Number(text);
}

function method(text: string): MatchMethod {
  const found = METHODS.find((name) => name === text);
  if (!found) throw new InputError(`match: the method "${text}" is not ${METHODS.join(', ')}`);
  return found;
}

/** A negative number after --target looks like an option to the parser. */
function joinTarget(args: readonly string[]): string[] {
  const end = args.indexOf('--');
  const joined: string[] = [];
  args.forEach((arg, i) => {
    const isValue = (end < 0 || i < end) && args[i - 1] === '--target' && /^-[\d.]/.test(arg);
    if (isValue) joined[joined.length - 1] = `--target=${arg}`;
    else joined.push(arg);
  });
  return joined;
}

/** Each command is read when it is called for. */
async function run([command, ...args]: string[]): Promise<void> {
  if (command === 'measure') {
    const { values, positionals } = parse(command, args, { json: { type: 'boolean' } });
    const { measureCommand } = await import('./measure');
    return measureCommand(positionals, values.json ?? false);
  }
  if (command === 'match') {
    const { values, positionals } = parse(command, joinTarget(args), {
      out: { type: 'string' },
      method: { type: 'string', default: 'loudness' },
      target: { type: 'string' },
      reference: { type: 'string' },
      force: { type: 'boolean', default: false },
      json: { type: 'boolean', default: false },
    });
    const { matchCommand } = await import('./match');
    return matchCommand(positionals, {
      out: values.out,
      method: method(values.method),
      targetLufs: target(values.target),
      reference: values.reference,
      force: values.force,
      json: values.json,
    });
  }
  if (command === 'compare') {
    const { values, positionals } = parse(command, args, { json: { type: 'boolean' } });
    const { compareCommand } = await import('./compare');
    return compareCommand(positionals, values.json ?? false);
  }
  if (command === 'analyze') {
    const { values, positionals } = parse(command, args, {
      json: { type: 'boolean', default: false },
      seed: { type: 'string', default: '1' },
      chains: { type: 'string' },
      key: { type: 'string' },
    });
    const seed = wholeNumber(command, values.seed);
    const { json, chains, key } = values;
    const { analyzeCommand } = await import('./analyze');
    return analyzeCommand(positionals, { json, seed, chains, key });
  }
  if (command === 'read') {
    const { values, positionals } = parse(command, args, {
      json: { type: 'boolean', default: false },
      seed: { type: 'string', default: '1' },
      chains: { type: 'string' },
      plan: { type: 'string' },
      key: { type: 'string' },
    });
    const { readCommand } = await import('./read');
    return readCommand(positionals, {
      json: values.json,
      seed: wholeNumber(command, values.seed),
      chains: values.chains,
      plan: values.plan,
      key: values.key,
    });
  }
  throw new InputError(`there is no command "${command}"`);
}

run(process.argv.slice(2)).catch((error: unknown) => {
  const known = error instanceof InputError;
  const message = error instanceof Error ? error.message : String(error);
  process.stderr.write(
    `zeitbank: ${known ? '' : 'internal failure: '}${message.replace(/\s+/g, ' ')}\n`,
  );
  process.exitCode = known ? 2 : 1;
});
