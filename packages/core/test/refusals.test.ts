import { describe, expect, it } from 'vitest';
import { CropSchema, ElementSchema, type ElementType, FreeTimeSchema, newElement, VideoSourceSchema } from '../src/elements';
import { type IdKind, makeId } from '../src/ids';
import { NewLeadSourceSchema } from '../src/leads';
import { PopUpSchema } from '../src/page';
import { BrandSchema, DEFAULT_BRAND, OwnCodeSchema } from '../src/shop';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
/** What is said first of something that is wrong; nothing for what is right. */
const said = (read: { success: boolean; error?: { issues: Array<{ message: string }> } | undefined }) =>
  read.success ? '' : (read.error?.issues[0]?.message ?? 'refused');
const element = (type: ElementType, changes: object) => said(ElementSchema.safeParse({ ...newElement(type, newId), ...changes }));

describe('what cannot be is refused in words', () => {
  it.each<[string, string]>([
    ['https://films.test/a.mp4', ''],
    ['http://films.test/a.mp4', 'Give the address of a video or of its player: it begins with https://'],
    ['javascript:alert(1)', 'Give the address of a video or of its player: it begins with https://'],
    ['a film', 'Give the address of a video or of its player: it begins with https://'],
  ])('the address of a video: %s', (url, message) => {
    expect(said(VideoSourceSchema.safeParse({ kind: 'address', url }))).toBe(message);
  });
  it.each<[string, string, string]>([
    ['09:00', '12:00', ''],
    ['09:00', '24:00', ''],
    ['12:00', '09:00', 'The end comes before the start.'],
    ['9:00', '12:00', 'A time is written like 09:30.'],
    ['25:00', '26:00', 'A time is written like 09:30.'],
  ])('free from %s until %s', (from, until, message) => {
    expect(said(FreeTimeSchema.safeParse({ day: 1, from, until }))).toBe(message);
  });
  it.each<[string, ElementType, object, string]>([
    ['an appointment of no time', 'appointment', { minutes: 0 }, 'At least five minutes.'],
    ['an appointment without a subject', 'appointment', { subject: ' ' }, 'Say what is booked.'],
    ['an appointment that is never free', 'appointment', { free: [] }, 'Say when you are free.'],
    ['a share box without a way', 'share', { ways: [] }, 'Leave at least one way.'],
    ['too much HTML', 'html', { code: 'x'.repeat(20_001) }, 'Keep own HTML under 20,000 characters.'],
    ['a logo of nobody', 'logos', { items: [{ name: ' ', pictureId: null }] }, 'Say whose sign this is.'],
    ['a stage without a name', 'form', { stages: ['One', ' '] }, 'Give the stage a name.'],
    ['a field without a label', 'form', { fields: [{ key: 'a', label: '', kind: 'text', required: false }] }, 'Give the field a label.'],
    [
      'a field with a strange key',
      'form',
      { fields: [{ key: '__proto__', label: 'A', kind: 'text', required: false }] },
      'A field’s key is letters and digits.',
    ],
    ['a message of nothing', 'form', { after: { kind: 'message', words: ' ' } }, 'Write what is said.'],
  ])('%s', (_name, type, changes, message) => {
    expect(element(type, changes)).toBe(message);
  });
  it('a crop that goes beyond its picture, a pop-up at once, a colour that is a word', () => {
    expect(said(CropSchema.safeParse({ x: 0.6, y: 0, width: 0.5, height: 1 }))).toBe('What is shown must lie within the picture.');
    const popUp = { id: newId('popUp'), name: 'Wait', trigger: { kind: 'seconds', seconds: 0 }, often: 'day', width: 'normal' };
    expect(said(PopUpSchema.safeParse(popUp))).toBe('At least one second.');
    expect(said(PopUpSchema.safeParse({ ...popUp, name: ' ', trigger: { kind: 'leaving' } }))).toBe('Give the pop-up a name.');
    expect(said(BrandSchema.safeParse({ ...DEFAULT_BRAND, main: 'blue' }))).toBe('A colour is written like #141B38.');
    expect(said(OwnCodeSchema.safeParse({ head: 'x'.repeat(20_001), body: '' }))).toBe('Keep own code under 20,000 characters.');
  });
  it('a place that sends leads without a name, or leads to nowhere', () => {
    expect(said(NewLeadSourceSchema.safeParse({ name: ' ' }))).toBe('Say where they come from.');
    expect(said(NewLeadSourceSchema.safeParse({ name: 'Fair', thanksUrl: 'javascript:x' }))).toBe('An address begins with https://');
    expect(said(NewLeadSourceSchema.safeParse({ name: 'Fair', fields: { theirs: 'not a key' } }))).toBe('A field’s key is letters and digits.');
  });
});
