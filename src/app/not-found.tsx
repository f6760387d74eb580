import Link from 'next/link';

export default function NotFound() {
  return (
    <>
      <h1>Not found</h1>
      <p>
        There is no such page, or it belongs to a farm that you may not see.{' '}
        <Link href="/">Back to Today</Link>
      </p>
    </>
  );
}
