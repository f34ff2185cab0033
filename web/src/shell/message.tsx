import type { ReactNode } from 'react';

/** A page that has only something to say. */
export function Message({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="grid h-full place-items-center p-6">
      <div className="max-w-md">
        <h1 className="font-serif text-2xl">{title}</h1>
        <p className="mt-2 text-muted">{children}</p>
        <a className="mt-4 inline-block text-verdigris underline underline-offset-3" href="/boards">
          All boards
        </a>
      </div>
    </main>
  );
}
