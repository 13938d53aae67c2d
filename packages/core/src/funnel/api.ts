import { z } from 'zod';
import { ProductSchema } from '../catalog';
import { idSchema } from '../ids';
import { ListQuerySchema, listPageSchema } from '../lists';
import { FunnelFiguresSchema } from '../reports';
import { BrandSchema, OwnCodeSchema } from '../shop';
import { GraphSchema, SlugSchema, StepSchema } from './funnel';
import { GraphOperationSchema } from './graphOperation';
import { OfflineSchema } from './offline';
import { StepKindSchema } from './stepKinds';

/** A funnel in the list, with its figures of the last 30 days. */
export const FunnelRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  slug: z.string(),
  live: z.boolean(),
  stops: z.array(z.object({ id: z.string(), kind: StepKindSchema, name: z.string() })),
  productName: z.string().nullable(),
  figures: FunnelFiguresSchema,
});
export type FunnelRow = z.infer<typeof FunnelRowSchema>;
export const FunnelListQuerySchema = ListQuerySchema.extend({
  archived: z.enum(['true', 'false']).default('false').describe('Those that were put away instead'),
});
export type FunnelListQuery = z.infer<typeof FunnelListQuerySchema>;
/** Puts a funnel away, or brings it back. */
export const ArchiveSchema = z.object({ archived: z.boolean() });
export const FunnelPageSchema = listPageSchema(FunnelRowSchema);

export const FunnelSettingsSchema = z.object({
  name: z.string().trim().min(1, 'Give the funnel a name.').max(80, 'Keep the name under 80 characters.'),
  slug: SlugSchema,
});
export type FunnelSettings = z.infer<typeof FunnelSettingsSchema>;

/** A look and code of a funnel's own; without them it has the shop's. */
export const FunnelLookSchema = z.object({ brand: BrandSchema.nullable(), code: OwnCodeSchema.nullable() });
export type FunnelLook = z.infer<typeof FunnelLookSchema>;

/** What of a stop can be changed beside its page. */
export const StepSettingsSchema = StepSchema.pick({ name: true, slug: true }).extend({
  productId: idSchema('product').nullable().describe('What the stop is about; null for nothing'),
});
export type StepSettings = z.infer<typeof StepSettingsSchema>;

/** What has not been published yet. */
export const ChangesSchema = z.object({ stepIds: z.array(z.string()), settings: z.boolean() });
export type Changes = z.infer<typeof ChangesSchema>;

/** A step of some funnel, as conditions name it. */
export const NamedStepSchema = z.object({ id: z.string(), name: z.string(), funnelName: z.string() });
export type NamedStep = z.infer<typeof NamedStepSchema>;

/** Something by its name. */
export const NamedSchema = z.object({ id: z.string(), name: z.string() });

export const FunnelViewSchema = z.object({
  id: z.string(),
  name: z.string(),
  slug: z.string(),
  giftId: z.string().nullable(),
  brand: BrandSchema.nullable().describe('A look of its own'),
  code: OwnCodeSchema.nullable().describe('Code of its own'),
  revision: z.int().describe('Counts up with every change of the map'),
  revisions: z.object({ settings: z.string(), look: z.string() }).describe('Stand for name and address, and for the look, as they are now; for If-Match'),
  graph: GraphSchema,
  stops: z.array(z.string()).describe('Step ids in the order people pass them'),
  publishedAt: z.int().nullable(),
  archivedAt: z.int().nullable().describe('When it was put away; its pages are offline since'),
  offline: OfflineSchema.nullable().describe('Taken offline since then, though it is published'),
  version: z.int(),
  addresses: z.record(z.string(), z.string()),
  products: z.record(z.string(), ProductSchema).describe('What the stops sell and give, and the parts of bundles'),
  sharing: z.object({
    from: z.record(z.string(), z.string()).describe('Names of the funnels that shared stops come from'),
    with: z.record(z.string(), z.array(NamedSchema)).describe('Funnels that share a stop of this one'),
  }),
  publications: z.array(z.object({ version: z.int(), at: z.int() })),
});

/** Changes of a funnel's map, all or none. */
export const MapChangeSchema = z.object({
  revision: z.int().describe('Of the map they were made on'),
  operations: z.array(GraphOperationSchema).min(1).max(400),
  copies: z.record(idSchema('step'), idSchema('step')).default({}).describe('New steps whose page is a copy of another’s'),
});
export type MapChange = z.input<typeof MapChangeSchema>;
