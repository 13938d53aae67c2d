import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { messagesIn } from './support/messages';

const root = path.resolve(import.meta.dirname, '../..');
const RAW = /\bexpected\b|\breceived\b|[Ii]nvalid|Unrecognized|\bundefined\b|\bNaN\b|\[object|\bnull\b|\bexception\b|[Ee]rror:|\bstack\b|\bSQL|\bENO/;

describe('whatever does not work', () => {
  it('is said as a person would, by server and studio alike', () => {
    const all = ['packages/core/src', 'packages/pages/src', 'apps/server/src', 'apps/studio/src'].flatMap((folder) =>
      messagesIn(root, folder, (file) => file.startsWith('packages/core/src/checks/')),
    );
    expect(all.length).toBeGreaterThan(300);
    const unkind = all.filter(
      ({ words, isSentence }) => RAW.test(words) || / {2}/.test(words) || (isSentence && !/^[A-Z0-9“…].*([.?!”:…)]|https:\/\/)$/su.test(words)),
    );
    expect(unkind).toEqual([]);
    expect([...new Set(all.map(({ words }) => words))].sort()).toMatchSnapshot();
  });
});
