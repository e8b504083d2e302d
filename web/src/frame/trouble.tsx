/** When the page itself fails: what happened, that nothing is lost, what to do. */
export function Trouble() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-4xl">This page tripped over itself</h1>
      <p className="mt-3 text-lg">
        Everything you recorded is in the store, and timers run on there. Load the page again; if it
        trips again, go on from another screen.
      </p>
      <p className="mt-4 text-lg">
        <a className="underline" href="/">
          To Today
        </a>
      </p>
    </main>
  );
}
