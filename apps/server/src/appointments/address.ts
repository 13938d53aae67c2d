import type { Services } from '../base/services';

type Needs = Pick<Services, 'config' | 'secrets'>;

const signed = (id: string) => `appointment ${id}`;

/** The path under which whoever booked an appointment moves or cancels it; it cannot be guessed, and is only mailed. */
export const bookingPath = ({ secrets }: Pick<Needs, 'secrets'>, id: string): string => `/go/appointment/${id}/${secrets.sign(signed(id))}`;

export const bookingAddress = (services: Needs, id: string): string => services.config.siteUrl + bookingPath(services, id);

/** Whether an address of an appointment was made here. */
export const isBookingAddress = ({ secrets }: Pick<Needs, 'secrets'>, id: string, signature: string): boolean => secrets.verify(signed(id), signature);
