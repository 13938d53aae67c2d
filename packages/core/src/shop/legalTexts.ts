import { type LegalPageKind, NO_SELLER } from './legalPages';
import { countryName, type Shop } from './shop';

type Known = Pick<Shop, 'name' | 'country' | 'contactEmail' | 'seller' | 'consent'>;

/**
 * A text to begin a legal page with: sound in what Ruta itself does, and with a gap in square brackets for everything that only
 * the seller knows. The seller answers for the text.
 */
export function startingText(kind: LegalPageKind, shop: Known): string {
  return TEXTS[kind](knownOf(shop)).join('\n\n');
}

interface Words {
  shop: string;
  seller: string;
  address: string;
  email: string;
  country: string;
  asks: boolean;
}

function knownOf({ name, country, contactEmail, seller = NO_SELLER, consent }: Known): Words {
  return {
    shop: name,
    seller: seller.name || '[your name or company]',
    address: seller.address.split('\n').filter(Boolean).join(', ') || '[your address]',
    email: contactEmail,
    country: countryName(country),
    asks: consent?.isOn ?? false,
  };
}

const TEXTS: Record<LegalPageKind, (words: Words) => string[]> = {
  imprint: ({ seller }) => [
    'Responsible for what stands here',
    `${seller} is responsible for the content of these pages.`,
    'Disputes',
    '[Say whether you take part in out-of-court dispute resolution, and before which body, or remove this paragraph.]',
  ],
  privacy: ({ shop, seller, address, email, asks }) => [
    'Who is responsible',
    `${seller}, ${address}, is responsible for what ${shop} knows about you. Write to ${email} with any question about it.`,
    'What is kept, and why',
    'When you order or sign up: your name, your email address, your address where something is sent, and what you bought. It is needed to carry out the contract with you (GDPR, Article 6(1)(b)) and to keep the records that tax law asks for (Article 6(1)(c)).',
    'When you look at pages: which pages are looked at and where visitors come from, to see what works (Article 6(1)(f)). Your network address is not kept with it.',
    asks
      ? 'Until you agree, nothing is kept in your browser but what your cart, your order or your code needs. If you agree, a random number is kept there, by which a returning visitor is recognised (Article 6(1)(a)). You can change your mind at the foot of every page.'
      : 'A random number is kept in your browser, by which a returning visitor is recognised.',
    'Letters are sent only to people who agreed to get them, and every letter has a link that ends them.',
    'Who receives it',
    'Card payments are carried out by [your payment processor], which receives your card details directly; we never see them. Pages, mails and files are served by [your hosting company]. Parcels are carried by [your carrier, or remove this sentence].',
    '[Name advertising platforms, mailing lists and other services that you use, and countries outside the European Economic Area to which data goes, or remove this paragraph.]',
    'How long',
    'Orders are kept for [number of years that tax law asks for] years. What you typed into a cart and did not order is kept for [number] days. Everything else is deleted once it is not needed any more.',
    'Your rights',
    `You may ask what is kept about you, and have it corrected, deleted or handed over to you; you may restrict or object to its use, and take back what you agreed to. Write to ${email}. You may complain to [the data protection authority of your country].`,
  ],
  terms: ({ shop, seller, address, email, country }) => [
    'Whom you buy from',
    `Whoever orders at ${shop} makes a contract with ${seller}, ${address}. You reach us at ${email}.`,
    'How you order',
    'You order by pressing the button below the order form that names the price. Until then you can change or leave everything. The contract is made when we confirm the order by mail; the mail holds what you ordered and these terms.',
    'Prices and payment',
    'The price shown before you order is the whole price, with tax and shipping. It is due at once unless the order says otherwise. For payments in parts and for subscriptions the order form and the receipt say when which sum is due; we charge it to the card you paid with.',
    'Subscriptions',
    `A subscription runs until you end it. You can end it at any time before the next payment: write to ${email}. What has been paid stays yours until the end of the period.`,
    'Delivery',
    'Files, keys and access are ready right after the payment and are linked in the receipt. Parcels leave us within [number] working days.',
    'If something is not right',
    `The statutory rights for goods and digital content that are not as agreed hold in full. Write to ${email}, and we put it right.`,
    'Which law holds',
    `The law of ${country} holds. Consumers keep the protection that the law of the country they live in gives them.`,
  ],
  withdrawal: ({ seller, address, email }) => [
    'Your right of withdrawal',
    'You have the right to withdraw from this contract within 14 days without giving any reason. The 14 days begin on the day of the contract, and for goods on the day on which you, or somebody you named who is not the carrier, received the last of them.',
    `To exercise the right, tell us (${seller}, ${address}, ${email}) by a clear statement, for example a letter or an email. You may use the form below, but you need not. It is enough to send it before the 14 days have passed.`,
    'What follows',
    'If you withdraw, we pay back to you all payments received from you, with the costs of delivery except the extra costs of a kind of delivery other than the cheapest standard one that we offer, without delay and at the latest 14 days after we heard of your withdrawal. We use the same way to pay as you did, and you bear no fees for it. For goods we may wait until we have them back, or you have shown that you sent them back, whichever is earlier.',
    'Send goods back within 14 days after you told us. You bear the direct cost of sending them back. [Change the last sentence if you bear it.] You are liable for a loss in value only where it comes from handling that was not needed to see what the goods are and how they work.',
    'If you asked for a service to begin during the 14 days, you owe us the part of it that was done until you told us.',
    'Where the right ends early',
    'For digital content that is not on a physical medium the right ends when we begin to provide it, if you agreed expressly that we begin before the 14 days are over, knew that you lose the right by it, and we confirmed this. For services it ends when they have been done completely under the same conditions. It does not exist for goods made to your own specification, nor for sealed recordings and software that were unsealed.',
    'Model withdrawal form',
    `To ${seller}, ${address}, ${email}:\nI/We (*) hereby give notice that I/we (*) withdraw from my/our (*) contract of sale of the following goods (*)/for the provision of the following service (*),\nOrdered on (*)/received on (*),\nName of consumer(s),\nAddress of consumer(s),\nSignature of consumer(s) (only if this form is notified on paper),\nDate\n(*) Delete as appropriate.`,
  ],
  refunds: ({ email }) => [
    'How to get your money back',
    `Write to ${email} with the number of your order. [Say within how many days, and under which conditions, you refund beyond what the law asks.]`,
    'How it is paid',
    'Refunds go to the card or account that paid. Banks take up to ten days to show them.',
    'Rights that the law gives you, such as the right of withdrawal, are not touched by this.',
  ],
};
