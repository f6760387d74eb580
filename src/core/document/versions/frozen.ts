// Written by `npm run freeze -- plan`: the schema of every version before today's.
import schema1 from './1.schema.json';
import schema2 from './2.schema.json';
import schema3 from './3.schema.json';
import schema4 from './4.schema.json';
import schema5 from './5.schema.json';
import schema6 from './6.schema.json';
import schema7 from './7.schema.json';
import schema8 from './8.schema.json';
import schema9 from './9.schema.json';
import schema10 from './10.schema.json';
import schema11 from './11.schema.json';

export const FROZEN: Readonly<Record<number, unknown>> = {
  1: schema1,
  2: schema2,
  3: schema3,
  4: schema4,
  5: schema5,
  6: schema6,
  7: schema7,
  8: schema8,
  9: schema9,
  10: schema10,
  11: schema11,
};
