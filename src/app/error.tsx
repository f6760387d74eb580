'use client';

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <>
      <h1>Something went wrong</h1>
      <p>Nothing that was saved is lost.</p>
      <button type="button" className="button mt-2" onClick={reset}>
        Try again
      </button>
    </>
  );
}
