import { DomainNameSchema, domainProblems, type FoundNames, recordsFor } from '@ruta/core/domains';
import { describe, expect, it } from 'vitest';

const TOKEN = 'abc123';
const named = { kind: 'name', name: 'shops.example.test' } as const;
const whole: FoundNames = { proofs: [`ruta-site=${TOKEN}`], addresses: ['192.0.2.7'], ours: ['192.0.2.7', '192.0.2.8'] };
const problems = (found: Partial<FoundNames>) => domainProblems('sky.perigeelane.test', TOKEN, named, { ...whole, ...found });

describe('the name of a domain', () => {
  it.each([
    ['sky.perigeelane.test', 'sky.perigeelane.test'],
    [' Sky.PerigeeLane.test. ', 'sky.perigeelane.test'],
    ['https://sky.perigeelane.test/moon?x=1', 'sky.perigeelane.test'],
    ['sky.perigeelane.test:4601', 'sky.perigeelane.test'],
    // Letters of any alphabet, as the network writes them.
    ['céu.perigeelane.test', 'xn--cu-bja.perigeelane.test'],
  ])('“%s” is %s', (typed, name) => expect(DomainNameSchema.parse(typed)).toBe(name));

  it.each([
    ['perigee', 'Write a name such as shop.example.test.'],
    ['', 'Write a name such as shop.example.test.'],
    ['192.168.1.4', 'Write a name, not a number: names are what visitors see.'],
    ['[::1]', 'Write a name such as shop.example.test.'],
    ['a b.test', 'Write a name such as shop.example.test.'],
    ['-sky.test', 'Write a name such as shop.example.test.'],
    [`${'a'.repeat(64)}.test`, 'Write a name such as shop.example.test.'],
    [`${'a.'.repeat(130)}test`, 'This name is too long.'],
  ])('“%s” is none', (typed, message) => expect(DomainNameSchema.safeParse(typed).error?.issues[0]?.message).toBe(message));
});

describe('what a domain’s names say', () => {
  it('needs a proof, and an entry that leads to the site’s own name or address', () => {
    expect(recordsFor('sky.perigeelane.test', TOKEN, named)).toEqual([
      { type: 'TXT', name: '_ruta.sky.perigeelane.test', value: 'ruta-site=abc123' },
      { type: 'CNAME', name: 'sky.perigeelane.test', value: 'shops.example.test' },
    ]);
    expect(recordsFor('perigeelane.test', TOKEN, { kind: 'address', address: '192.0.2.7' })[1]).toEqual({
      type: 'A',
      name: 'perigeelane.test',
      value: '192.0.2.7',
    });
  });

  it.each<[string, Partial<FoundNames>, string[]]>([
    ['all is there', {}, []],
    ['another address of ours is enough', { addresses: ['203.0.113.1', '192.0.2.8'] }, []],
    ['nothing yet', { proofs: [], addresses: [] }, ['There is no TXT entry of _ruta.sky.perigeelane.test yet.', 'sky.perigeelane.test leads nowhere yet.']],
    ['another proof', { proofs: ['ruta-site=else'] }, ['The TXT entry of _ruta.sky.perigeelane.test says something else.']],
    [
      'leads elsewhere',
      { addresses: ['203.0.113.1'] },
      ['sky.perigeelane.test leads to 203.0.113.1, which is not here. Change its entry to shops.example.test.'],
    ],
    ['nobody answers', { addresses: null }, ['The names could not be looked up just now.']],
  ])('%s', (_case, found, expected) => {
    const said = problems(found);
    expect(said).toHaveLength(expected.length);
    for (const [index, words] of expected.entries()) expect(said[index]).toContain(words);
  });
});
