// A step writes its own tables, and reads its own and those of steps before it: what comes later is asked for by
// whoever stands above both. Prints each statement that does otherwise, and exits with 1.
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

const STEPS = 'src/steps';
const read = (file) => readFileSync(file, 'utf8');
const order = JSON.parse(read(path.join(STEPS, 'order.json')));
const owned = JSON.parse(read(path.join(STEPS, 'tables.json')));
const ownerOf = new Map(
  Object.entries(owned).flatMap(([step, tables]) => tables.map((table) => [table, step])),
);
const faults = [];

// Every table that stands has one owner, and no owner a table that does not stand.
const standing = new Set();
for (const file of readdirSync('db/migrations').sort()) {
  const [up] = read(path.join('db/migrations', file)).split('-- Down Migration');
  for (const [, made] of up.matchAll(/CREATE TABLE (\w+)/g)) standing.add(made);
  for (const [, gone] of up.matchAll(/DROP TABLE ([\w, \n]+)/g)) {
    for (const name of gone.split(',')) standing.delete(name.trim());
  }
}
for (const table of standing) if (!ownerOf.has(table)) faults.push(`${table} is no step’s`);
for (const table of ownerOf.keys()) {
  if (!standing.has(table)) faults.push(`${table} has an owner, but does not stand`);
}

/** Every text in a file that holds a statement, with where it begins; what is put into it reads as a blank. */
function statements(text) {
  const file = ts.createSourceFile('', text, ts.ScriptTarget.Latest, true);
  const found = [];
  const visit = (node) => {
    if (ts.isStringLiteralLike(node) || ts.isTemplateExpression(node)) {
      const raw = ts.isTemplateExpression(node)
        ? [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join(' ')
        : node.text;
      if (/\b(SELECT|INSERT INTO|UPDATE|DELETE FROM|FROM|JOIN)\b/.test(raw)) {
        found.push([raw, node.getStart()]);
      }
    }
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

/** Rank of who may be read: a step reads what stands before it. */
const rank = (owner) => order.indexOf(owner);
const NAMED = /\b(FROM|JOIN|USING|INTO|UPDATE)\s+(?:ONLY\s+)?([a-z_]+)/g;

for (const step of order) {
  for (const entry of readdirSync(path.join(STEPS, step), { recursive: true })) {
    const file = path.join(STEPS, step, entry);
    if (!file.endsWith('.ts') || file.endsWith('.test.ts')) continue;
    const text = read(file);
    for (const [statement, begins] of statements(text)) {
      for (const { 1: verb, 2: table, index: at } of statement.matchAll(NAMED)) {
        const owner = ownerOf.get(table);
        if (owner === undefined || owner === step) continue;
        const deletes = verb === 'FROM' && /DELETE\s+$/.test(statement.slice(0, at));
        const writes = verb === 'INTO' || verb === 'UPDATE' || deletes;
        if (!writes && rank(owner) < rank(step)) continue;
        const line = text.slice(0, begins).split('\n').length;
        faults.push(`${file}:${line} ${writes ? 'writes' : 'reads'} ${table}, which is ${owner}’s`);
      }
    }
  }
}

for (const fault of faults) console.error(fault);
if (faults.length > 0) process.exit(1);
console.log('Each step keeps to its tables.');
