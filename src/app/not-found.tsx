import Link from 'next/link';

/** An address at which nothing is, or nothing any more. */
export default function NotFound() {
  return (
    <main className="mx-auto max-w-[380px] px-6 py-20">
      <h1 className="text-[18px] font-semibold">There is nothing here</h1>
      <p className="mt-2 text-muted">
        The address is mistyped, or what was here has gone. Nothing else has changed.
      </p>
      <Link
        href="/"
        className="mt-5 inline-flex h-9 items-center rounded-md bg-raised px-3 font-medium text-soft hover:bg-lift"
      >
        To the shows
      </Link>
    </main>
  );
}
