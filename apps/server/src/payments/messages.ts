/** What a buyer is told when a payment did not go through: what happened, what of it was charged, what to do. */
const MESSAGES: Record<string, string> = {
  'no-funds': 'The bank says there is not enough money on this card. Nothing was charged. Use another card, or try again later.',
  'expired-card': 'The bank says this card has expired. Nothing was charged. Use another card.',
  'stolen-card': 'The bank refused this card. Nothing was charged. Use another card, or ask your bank.',
  'sold-out': 'It was sold out while your payment was on its way, so nothing was bought. What was taken goes back to your card by itself.',
  'not-confirmed': 'The payment was not confirmed with your bank. Nothing was charged. Press the button to try again.',
  unavailable: 'Card payments are not available at the moment. Nothing was charged. Please try again in a few minutes.',
  'never-arrived':
    'The payment did not reach the bank, as far as it knows. Press the button to try again; should the first one still turn up, you pay once only.',
  'no-method': 'No card is on file for this order. Enter one to add this; nothing was charged.',
};

/** The words for a decline or failure code. */
export function declineMessage(reason: string): string {
  return (Object.hasOwn(MESSAGES, reason) && MESSAGES[reason]) || 'The bank refused this payment. Nothing was charged. Use another card, or ask your bank.';
}
