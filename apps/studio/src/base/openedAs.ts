/** The same page, opened so that the visit of whoever is signed in here does not count. */
export const openedAs = (address: string): string => `/api/open?to=${encodeURIComponent(address)}`;
