import type { Shown } from '../figure/Pager';

const STATES: readonly [string, string][] = [
  ['', 'all'],
  ['decide', 'needs a decision'],
  ['stopped', 'stopped'],
  ['no_crop', 'no crop yet'],
  ['not_proposed', 'not proposed'],
  ['to_answer', 'waits for an answer'],
  ['change_asked', 'change asked for'],
  ['changed', 'changed since agreed'],
  ['agreed', 'agreed as it stands'],
];
const SORTS: readonly [string, string][] = [
  ['list', 'as in the farm’s list'],
  ['name', 'by name'],
  ['decide', 'most to decide first'],
  ['n', 'most N still to apply first'],
];
const options = (list: readonly [string, string][]) =>
  list.map(([value, words]) => (
    <option key={value} value={value}>
      {words}
    </option>
  ));

/**
 * Narrows a list of fields by name or crop, farm and state, and puts it in order: a form that works
 * by its address, so that a list can be kept and sent.
 */
export function FieldFilter({
  asked,
  found,
  farms,
  farm,
}: {
  asked: Shown & { state: string | null; sort: string };
  found: number;
  /** Farms to choose from; none where the page is of one farm. */
  farms: readonly { id: string; name: string }[];
  farm: string | null;
}) {
  const narrowed = asked.search !== '' || asked.state !== null || (farms.length > 0 && farm);
  return (
    <form role="search" className="no-print mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {farms.length === 0 && farm && <input type="hidden" name="farm" value={farm} />}
      <label className="inline-flex items-baseline gap-1.5">
        Field or crop
        <input
          className="box w-40"
          type="search"
          name="q"
          defaultValue={asked.search}
          maxLength={80}
          autoComplete="off"
        />
      </label>
      {farms.length > 1 && (
        <label className="inline-flex items-baseline gap-1.5">
          Farm
          <select className="box" name="farm" defaultValue={farm ?? ''}>
            <option value="">all</option>
            {farms.map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="inline-flex items-baseline gap-1.5">
        State
        <select className="box" name="state" defaultValue={asked.state ?? ''}>
          {options(STATES)}
        </select>
      </label>
      <label className="inline-flex items-baseline gap-1.5">
        Order
        <select className="box" name="sort" defaultValue={asked.sort}>
          {options(SORTS)}
        </select>
      </label>
      <button type="submit" className="button">
        Show
      </button>
      {narrowed && (
        <span role="status" className="note">
          {found === 0 ? 'no field is so' : `${found} ${found === 1 ? 'field' : 'fields'}`}
        </span>
      )}
    </form>
  );
}
