/** A screen outside an inspection: where one is, what it is called, and its contents. */
import type { ReactNode } from "react";
import { Link } from "react-router";
import css from "./Page.module.css";

export function Page({ title, trail, tools, children }: { title: string; trail?: [string, string][]; tools?: ReactNode; children: ReactNode }) {
  return (
    <main className={css.page}>
      <nav className={css.trail} aria-label="Where you are">
        <Link to="/">Home</Link>
        {(trail ?? []).map(([to, name]) => (
          <span key={to} style={{ display: "contents" }}>
            <span aria-hidden="true">›</span>
            <Link to={to}>{name}</Link>
          </span>
        ))}
      </nav>
      <header className={css.head}>
        <h1>{title}</h1>
        {tools}
      </header>
      {children}
    </main>
  );
}
