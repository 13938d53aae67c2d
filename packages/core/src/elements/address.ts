import { z } from 'zod';

/** An address that a page may lead to: a site, or somebody to write to. */
export const AddressSchema = z.url({ protocol: /^(https?|mailto)$/, error: 'Enter a full address beginning with https://' });
