import type { PictureInfo } from '@ruta/core/catalog';
import type { Action, PageElement, Words } from '@ruta/core/elements';
import type { Column, PageDocument, Section } from '@ruta/core/page';
import type { Quote, SummedQuote } from '@ruta/core/pricing';
import type { Brand, LegalLink } from '@ruta/core/shop';
import type { CSSProperties, ReactNode } from 'react';
import { createContext, useContext } from 'react';
import type { BumpView, OffersView } from './offers';
import type { ShownProduct } from './shownProduct';

/** One way to buy what a checkout sells. */
export interface CheckoutOption {
  /** Id of the price. */
  id: string;
  /** The edition's name; empty where there is only one. */
  edition: string;
  /** The price's own name; empty where the seller gave none. */
  name: string;
  /** `€138`, `4 × €45 a month`. */
  price: string;
  description: string;
  /** What the buyer may choose to pay, in words; null where the price is fixed. */
  chooses: string | null;
  /** How many are left, if that is few enough to say; 0 is sold out. */
  left: number | null;
}

/** The state of a checkout as a buyer sees it. */
export interface CheckoutView {
  actionUrl: string;
  quoteUrl: string;
  contactUrl: string;
  cartId: string;
  quote: Quote;
  values: Record<string, string>;
  errors: Record<string, string>;
  /** Said above the form: a declined card, a changed total. */
  message: string | null;
  /** The message is of the card, and stands at it. */
  isOfCard?: boolean;
  countries: ReadonlyArray<{ code: string; name: string }>;
  /** Regions that taxes or rates tell apart, by country. */
  regions: Array<{ country: string; name: string; regions: string[] }>;
  options: CheckoutOption[];
  bumps: BumpView[];
  /** A card is needed: for what is due today, or for what is due later. */
  needsCard: boolean;
  /** Ids of the options with which something is shipped, so that an address is needed. */
  sentOptions: string[];
  /** Names of the ticks with which something is shipped. */
  sentBumps: string[];
  /** Something on offer here costs something, so that a card may come to be needed. */
  mayNeedCard: boolean;
  cardFields: { url: string; origin: string } | null;
  testMode: boolean;
  /** An order this buyer has already paid from here. */
  paidOrder: { number: string; paid: string; url: string; againUrl: string | null } | null;
}

/** An order as its buyer sees it. */
export interface OrderView {
  number: string;
  /** Bought in test mode: nothing was charged, and nothing is sent. */
  test: boolean;
  quote: SummedQuote;
  /** Given back so far, tax included, minor units. */
  refunded?: number;
  downloads: Array<{ name: string; size: string; url: string; from: string }>;
  links: Array<{ words: string; url: string; from: string }>;
  keys: Array<{ value: string; from: string }>;
  /** Whom to write to when dissatisfied, where a product names somebody. */
  contacts: Array<{ name: string; email: string }>;
  /** The products' own words and buttons after the purchase. */
  confirmations: Array<{ text: string; buttonWords: string; buttonUrl: string }>;
}

/** What forms show: what was typed and what is wrong with it, or what is said once one was sent. */
export interface FormShown {
  actionUrl: string;
  values: Record<string, string>;
  errors: Record<string, string>;
  /** Which form they are of; every form of the page without it. */
  formId?: string;
  sent?: { id: string; words: string };
}

/** What an appointment shows: the free times by day, and what was typed. */
export interface AppointmentShown {
  actionUrl: string;
  /** The time zone whose clock the times are by; in a browser with a script they are by its own. */
  zone: string;
  /** Another time is chosen for what is booked already: nobody is asked who they are. */
  isMove?: boolean;
  days: Array<{ date: string; words: string; slots: Array<{ start: number; words: string }> }>;
  values: Record<string, string>;
  errors: Record<string, string>;
  /** The time that has just been booked, in words. */
  booked: string | null;
}

/** A moment and the present one, Unix time in milliseconds, with the first in words. */
export interface EndsAt {
  at: number;
  now: number;
  words: string;
}

/** Everything a page shows that is not in its document. */
export interface PageContext {
  brand: Brand;
  shop: { name: string; email: string; currency: string };
  /** The legal pages that the shop has written, linked at the foot of every page and beside the button that orders. */
  legal: readonly LegalLink[];
  /** Whether order forms ask businesses for their tax number where a form does not say so itself. */
  asksTaxNumber: boolean;
  /** Something that is told once, above the page: that a gift is on its way. */
  notice: string | null;
  product: ShownProduct | null;
  gift: ShownProduct | null;
  buyer: { firstName: string } | null;
  pictures: Record<string, PictureInfo>;
  /** Where pictures and fonts are served from; empty on the public site. */
  assetBase: string;
  /** Where an action of an element leads; the element's id stands for it on the way. */
  /** Where a press leads; with the place of what is pressed among the parts of one element, and the price that it chooses. */
  href: (action: Action, elementId: string, more?: { part?: number; option?: string | undefined }) => string;
  /** Where the page's button sends a request, on a page of the site's own that asks for something; elsewhere buttons lead on. */
  sendsTo?: string;
  /** Where a link in words leads; as it is written without it. */
  linkTo?: (address: string) => string;
  /** Public address of a stop of this funnel, or of the page itself. */
  addressOf: (stepId: string | null) => string;
  /** What a share box passes on: the address of a public step, at first the funnel's first page. */
  sharedAddress: (stepId: string | null) => string;
  /** Own HTML without what runs or breaks out of its place. */
  cleanHtml: (code: string) => string;
  /** Free times of each appointment on the page, by the element's id. */
  appointments: Record<string, AppointmentShown>;
  form: FormShown | null;
  checkout: CheckoutView | null;
  order: OrderView | null;
  /** What is offered after the payment; null on every other page. */
  offers: OffersView | null;
  /** When what the page offers ends, and the moment it was made; Unix time in milliseconds, with the end in words. */
  endsAt: EndsAt | null;
  /** A moment that a page itself names, as of now. */
  endOf: (at: number) => EndsAt;
}

/** How the box of a section is drawn. */
export interface SectionBox {
  className: string;
  id: string;
  style: CSSProperties | undefined;
}

/** What the editor adds to a page: frames around its parts, and words that can be typed into. */
export interface EditHooks {
  /** The section itself, so that it stands among its neighbours as on the page: its box, and what is in it. */
  frameSection: (section: Section, box: SectionBox, row: ReactNode) => ReactNode;
  frameElement: (element: PageElement, children: ReactNode) => ReactNode;
  columnEnd: (section: Section, column: Column, index: number) => ReactNode;
  /** Whether its frames stand as the layout of their elements says; otherwise the elements do so themselves. */
  framesLayout?: boolean;
  editableWords: (elementId: string, path: Array<string | number>, words: Words) => ReactNode | null;
}

interface PageValue {
  context: PageContext;
  edit: EditHooks | null;
}

const Context = createContext<PageValue | null>(null);
export const PageProvider = Context.Provider;
const Whole = createContext<PageDocument | null>(null);
export const WholePageProvider = Whole.Provider;

/** What the page is shown with, and the editor's hooks if it is being edited. */
export function usePage(): PageValue {
  return inPage(useContext(Context));
}

/** The whole page that an element stands on. Whoever asks is drawn anew with every letter typed anywhere on it. */
export function useWholePage(): PageDocument {
  return inPage(useContext(Whole));
}

/** Where an element stands: how many twelfths its column is wide, and whether it is among the first things seen. */
export interface Place {
  span: number;
  isEarly: boolean;
}
const PlaceContext = createContext<Place>({ span: 12, isEarly: false });
export const PlaceProvider = PlaceContext.Provider;
export const usePlace = (): Place => useContext(PlaceContext);

function inPage<T>(value: T | null): T {
  if (!value) throw new Error('A page element was rendered outside a page.');
  return value;
}
