/** A schema that programs may hold a document against, under a name that stays. */
export interface PublishedSchema {
  /** As in a path: `season-file-6`. */
  name: string;
  title: string;
  version: number;
  schema: object;
}

/**
 * A schema with its lasting id, title and description.
 *
 * @example published('sample-list', 1, 'Sample list', 'A row.', {}).name // 'sample-list-1'
 */
export const published = (
  kind: string,
  version: number,
  title: string,
  description: string,
  schema: object,
): PublishedSchema => ({
  name: `${kind}-${version}`,
  title,
  version,
  schema: {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: `urn:patient-furrow:${kind}:${version}`,
    title: `${title}, version ${version}`,
    description,
    ...schema,
  },
});
