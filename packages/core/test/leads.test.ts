import { describe, expect, it } from 'vitest';
import type { FieldOfForm } from '../src/elements';
import { words } from '../src/elements';
import { answersOf, flatten, keyFrom, readAnswers, readOutsideLead } from '../src/leads';

const field = (key: string, kind: FieldOfForm['kind'], more: Partial<FieldOfForm> = {}): FieldOfForm => ({
  key,
  label: `Label of ${key}`,
  kind,
  required: false,
  ...more,
});

describe('what is sent for a form', () => {
  const form = (...fields: FieldOfForm[]) => ({ fields });
  it.each<[string, FieldOfForm, unknown, string | undefined]>([
    ['an address', field('email', 'email', { required: true }), 'nobody', 'Enter an e-mail address, for example name@example.test.'],
    ['nothing where something must be', field('firstName', 'text', { required: true }), '  ', 'Please fill this in.'],
    ['nothing where it may be', field('firstName', 'text'), '', undefined],
    ['an answer that is none', field('which', 'choice', { choices: ['a', 'b'] }), 'c', 'Choose one of the answers.'],
    ['a number', field('many', 'number'), '1,5', undefined],
    ['no number', field('many', 'number'), 'five', 'Enter a number.'],
    ['a day', field('day', 'date'), '2026-11-30', undefined],
    ['no day of the calendar', field('day', 'date'), '2026-13-30', 'Enter a date.'],
    ['a phone number', field('phone', 'phone'), '+351 210 000 000', undefined],
    ['no phone number', field('phone', 'phone'), 'call me', 'Enter a phone number, for example +351 210 000 000.'],
    ['too many words', field('text', 'text'), 'x'.repeat(201), 'Keep this under 200 characters.'],
    ['a long answer', field('long', 'long'), 'x'.repeat(1999), undefined],
    ['a box that must be ticked', field('terms', 'check', { required: true }), undefined, 'Please fill this in.'],
  ])('%s', (_name, asked, sent, message) => {
    const { errors } = readAnswers(form(asked), { [asked.key]: sent });
    expect(errors[asked.key]).toBe(message);
  });
  it('keeps only answers that were offered, several as one line, and what a hidden field holds', () => {
    const asked = form(field('which', 'several', { choices: ['a', 'b', 'c'] }), field('from', 'hidden', { value: 'letter' }));
    expect(readAnswers(asked, { which: ['c', 'a', 'evil'] }).values).toEqual({ which: 'a, c', from: 'letter' });
    expect(readAnswers(asked, { which: 'b', from: 'poster' }).values).toEqual({ which: 'b', from: 'poster' });
  });
  it('keeps consent with its very wording, and asks for it where it must be given', () => {
    const asked = { fields: [field('email', 'email')], consent: { words: words('Write to me, ', { bound: 'shop.name' }), required: true } };
    expect(readAnswers(asked, { email: 'a@moonmail.test' }).errors).toEqual({ consent: 'Please tick this to go on.' });
    const { values, errors } = readAnswers(asked, { email: 'a@moonmail.test', consent: 'on' });
    expect(errors).toEqual({});
    expect(answersOf(asked, values)).toEqual([{ field: 'consent', label: 'Write to me, [shop name]', value: 'yes' }]);
  });
  it('keeps answers by field: another label is the same answer', () => {
    const answered = (label: string) =>
      answersOf(form(field('email', 'email'), field('question1', 'text', { label })), { email: 'a@moonmail.test', question1: 'Yes' });
    expect(answered('Old words')).toEqual([{ field: 'question1', label: 'Old words', value: 'Yes' }]);
    expect(answered('New words')[0]?.field).toBe('question1');
  });
});

describe('a lead from elsewhere', () => {
  it('is known by how its fields are usually called, and keeps the rest as answers', () => {
    expect(readOutsideLead({ 'E-Mail': ' a@moonmail.test ', First_Name: 'Marta', 'Favourite colour?': 'blue', _hp: 'x' }, {})).toEqual({
      email: 'a@moonmail.test',
      firstName: 'Marta',
      lastName: '',
      answers: [{ field: 'favouriteColour', label: 'Favourite colour?', value: 'blue' }],
    });
  });
  it('is read by the names it was told', () => {
    expect(readOutsideLead({ adresse: 'a@moonmail.test', stadt: 'Braga' }, { adresse: 'email', stadt: 'town' })).toMatchObject({
      email: 'a@moonmail.test',
      answers: [{ field: 'town', value: 'Braga' }],
    });
  });
  it('is read out of what ad platforms send', () => {
    const sent = {
      entry: {
        lead: {
          field_data: [
            { name: 'email', values: ['a@moonmail.test'] },
            { name: 'full_name', values: ['Marta'] },
          ],
        },
      },
    };
    expect(readOutsideLead(sent, {})).toMatchObject({ email: 'a@moonmail.test', firstName: 'Marta' });
  });
  it('is never more than it may be', () => {
    expect(flatten({ a: { b: { c: { d: { e: { f: { g: { h: 'deep' } } } } } } } })).toEqual({});
    const many = Object.fromEntries(Array.from({ length: 100 }, (_, index) => [`field ${index}`, 'x'.repeat(1000)]));
    const { answers } = readOutsideLead(many, {});
    expect(answers).toHaveLength(40);
    expect(answers.every(({ value }) => value.length <= 200)).toBe(true);
    expect(keyFrom('¿¿??')).toBe('field');
  });
});
