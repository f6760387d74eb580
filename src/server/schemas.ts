import { seasonFileSchemas } from '@/core/document/seasonFile';
import { sampleListSchemas } from '@/core/ground/sampleList';
import type { PublishedSchema } from '@/core/quantity/published';
import { farmFileSchemas } from './farmFile';

/** Every schema that is published, of every version. */
export const schemas = (): PublishedSchema[] => [
  ...seasonFileSchemas(),
  ...farmFileSchemas(),
  ...sampleListSchemas(),
];
