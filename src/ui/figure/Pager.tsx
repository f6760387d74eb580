import { Search } from 'lucide-react';
import type { Route } from 'next';
import Link from 'next/link';

/** Which part of a list of fields is shown. */
export interface Shown {
  offset: number;
  limit: number;
  search: string;
  state?: string | null;
  sort?: string;
}
const addressOf = (
  path: string,
  { limit, search, state, sort }: Shown,
  offset: number,
  farm?: string,
): Route => {
  const said = new URLSearchParams();
  if (farm) said.set('farm', farm);
  if (search) said.set('q', search);
  if (state) said.set('state', state);
  if (sort && sort !== 'list') said.set('sort', sort);
  if (offset > 0) said.set('page', String(offset / limit + 1));
  const query = said.toString();
  return `${path}${query && '?'}${query}` as Route;
};

/**
 * Finds fields by their name; shown once there are more than fit on a screen, or while it is in
 * use.
 */
export function FieldFinder({
  asked,
  found,
  farm,
}: {
  asked: Shown;
  found: number;
  farm?: string;
}) {
  if (found <= 12 && asked.search === '') return null;
  return (
    <form role="search" className="no-print flex items-baseline gap-2">
      {farm && <input type="hidden" name="farm" value={farm} />}
      <label className="inline-flex items-baseline gap-1.5">
        Find a field
        <input
          className="box"
          type="search"
          name="q"
          defaultValue={asked.search}
          maxLength={80}
          autoComplete="off"
        />
      </label>
      <button type="submit" className="button" aria-label="Find">
        <Search size={13} aria-hidden />
      </button>
      {asked.search && (
        <span role="status" className="note">
          {found === 0 ? 'no field of that name' : `${found} found`}
        </span>
      )}
    </form>
  );
}

/** Where one is in a long list, and the way on and back. Nothing where all fits on one page. */
export function Pager({
  path,
  asked,
  found,
  farm,
}: {
  path: string;
  asked: Shown;
  found: number;
  farm?: string;
}) {
  const { offset, limit } = asked;
  if (found <= limit && offset === 0) return null;
  const to = Math.min(found, offset + limit);
  return (
    <nav aria-label="Pages of fields" className="no-print my-2 flex items-baseline gap-5">
      {offset > 0 && (
        <Link rel="prev" href={addressOf(path, asked, Math.max(0, offset - limit), farm)}>
          Fields before
        </Link>
      )}
      <span className="note">
        {offset < found
          ? `Fields ${offset + 1} to ${to} of ${found}`
          : `There are ${found} fields; this page lies behind the last.`}
      </span>
      {to < found && (
        <Link rel="next" href={addressOf(path, asked, offset + limit, farm)}>
          Fields after
        </Link>
      )}
    </nav>
  );
}
