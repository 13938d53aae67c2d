/** What a test card does. All numbers are invented, pass the Luhn check and begin with 9, which no issuer uses. */
export type Behaviour = 'approve' | 'no-funds' | 'expired-card' | 'stolen-card' | 'confirm' | 'answer-late' | 'down' | 'confirm-late' | 'taken-then-down';

export const TEST_CARDS: ReadonlyArray<{ number: string; behaviour: Behaviour; says: string }> = [
  { number: '9000000000000019', behaviour: 'approve', says: 'Approved' },
  { number: '9000000000000027', behaviour: 'no-funds', says: 'Declined: no funds' },
  { number: '9000000000000035', behaviour: 'expired-card', says: 'Declined: card expired' },
  { number: '9000000000000043', behaviour: 'stolen-card', says: 'Declined: reported stolen' },
  { number: '9000000000000050', behaviour: 'confirm', says: 'Asks the buyer to confirm' },
  { number: '9000000000000068', behaviour: 'answer-late', says: 'Approved, but answers too late' },
  { number: '9000000000000076', behaviour: 'down', says: 'The processor is down' },
  { number: '9000000000000084', behaviour: 'confirm-late', says: 'Asks the buyer to confirm, but answers too late' },
  { number: '9000000000000092', behaviour: 'taken-then-down', says: 'Takes the money, then answers that it is down, and tells nobody' },
];

/** The Luhn checksum of card numbers. */
export function passesLuhn(number: string): boolean {
  const sum = [...number].reverse().reduce((total, digit, index) => {
    const doubled = Number(digit) * (index % 2 === 1 ? 2 : 1);
    return total + (doubled > 9 ? doubled - 9 : doubled);
  }, 0);
  return number.length >= 12 && sum % 10 === 0;
}
