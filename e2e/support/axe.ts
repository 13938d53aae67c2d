import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Person } from './browser';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  nodes: Array<{ html: string }>;
}

/** What axe finds wrong on the page as it stands: WCAG 2.2 A and AA, and its best practices. Frames of others are left out. */
export async function axeProblems(person: Person): Promise<string[]> {
  await person.driver.executeScript(source);
  const violations = await person.driver.executeAsyncScript<Violation[]>(
    `const done = arguments[0];
     axe.run(document, { iframes: false, resultTypes: ['violations'] }).then((result) => done(result.violations), (error) => done([{ id: String(error), nodes: [] }]));`,
  );
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 140)).join(' | ')}`);
}
