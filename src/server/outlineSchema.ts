import { z } from 'zod';

const rings = z.array(z.array(z.array(z.number()).min(2).max(3)).max(5001)).max(50);
/** An outline as it comes in; what it encloses is checked by `checkOutline`. */
export const outlineSchema = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('Polygon'), coordinates: rings }),
  z.strictObject({ type: z.literal('MultiPolygon'), coordinates: z.array(rings).max(50) }),
]);
