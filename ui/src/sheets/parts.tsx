/** Title and groups that every sheet is made of. */
import type { ReactNode } from "react";

export function SheetTitle({ title, id, children }: { title: string; id?: string; children?: ReactNode }) {
  return (
    <header className="mb-2">
      <h2 id={id} tabIndex={id ? -1 : undefined} dir="auto" className="text-lg leading-tight font-bold break-words">
        {title}
      </h2>
      {children ? <p className="narrow text-soft">{children}</p> : null}
    </header>
  );
}

export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-3">
      <h3 className="wide mb-0.5 border-b border-ink text-xs font-bold tracking-wide uppercase">{title}</h3>
      {children}
    </section>
  );
}
