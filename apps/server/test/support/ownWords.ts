/** Somebody who is signed in and asks the API. */
interface Asking {
  // biome-ignore lint/suspicious/noExplicitAny: the funnel and its pages as the API answers them
  read: (path: string) => Promise<any>;
  make: (path: string, body: unknown, method?: string) => Promise<unknown>;
}

/** A page whose words of a template are its seller's own, as they stand. */
export const ownWords = <T>(page: T): T => JSON.parse(JSON.stringify(page).replaceAll(',"placeholder":true', ''));

/** Makes the words of a template the seller's own, as they stand, on every page of a funnel: only then can it go live. */
export async function writeOwnWords(seller: Asking, funnelId: string): Promise<void> {
  const { graph } = await seller.read(`/funnels/${funnelId}`);
  for (const { id } of graph.steps) {
    const { page, revision } = await seller.read(`/steps/${id}/page`);
    const own = ownWords(page);
    if (JSON.stringify(own) !== JSON.stringify(page)) await seller.make(`/steps/${id}/page`, { revision, page: own }, 'PUT');
  }
}
