/** A screen outside an inspection: where one is, what it is called, its parts, and its lists. */
import type { ReactNode } from "react";
import { Link } from "./Link";
import css from "./Page.module.css";
import { TextLink } from "./TextLink";

interface PageProps {
  title: string;
  /** Screens above this one: address and name. */
  trail?: readonly (readonly [to: string, name: string])[];
  /** Stands behind the title. */
  tools?: ReactNode;
  /** Needs the width of a desk: two columns. */
  wide?: boolean;
  children: ReactNode;
}

export function Page({ title, trail = [], tools, wide, children }: PageProps) {
  const above = [["/", "Home"] as const, ...trail];
  return (
    <main className={wide ? `${css.page} ${css.wide}` : css.page}>
      <nav aria-label="Where you are" className={css.trail}>
        {above.map(([to, name], at) => (
          <div key={to} className={css.step}>
            {at > 0 && <span aria-hidden="true">›</span>}
            <TextLink to={to} look="place">
              {name}
            </TextLink>
          </div>
        ))}
      </nav>
      <header className={css.head}>
        <h1 className={css.title}>{title}</h1>
        {tools}
      </header>
      {children}
    </main>
  );
}

interface SectionProps {
  title: string;
  /** Stands behind the heading. */
  tools?: ReactNode;
  /** A line about it. */
  lead?: ReactNode;
  children?: ReactNode;
  /** First of its page: no line above. */
  first?: boolean;
}

/** A part of a screen under its own heading. */
export function Section({ title, tools, lead, children, first }: SectionProps) {
  return (
    <section aria-label={title} className={first ? css.section : `${css.section} ${css.ruled}`}>
      <div className={css.sectionHead}>
        <h2 className={css.subtitle}>{title}</h2>
        {tools}
      </div>
      {lead && <div className={css.lead}>{lead}</div>}
      {children}
    </section>
  );
}

/** Fields side by side, as many as fit. */
export const FieldGrid = ({ children }: { children: ReactNode }) => <div className={css.fields}>{children}</div>;

/** Takes the whole width among fields. */
export const Wide = ({ children }: { children: ReactNode }) => <div className={css.whole}>{children}</div>;

/** A list of lines, each with a thin rule above it. */
export const Lines = ({ label, children }: { label?: string; children: ReactNode }) => (
  <ul aria-label={label} className={css.lines}>
    {children}
  </ul>
);

interface LineProps {
  /** Where a tap on it leads. */
  to?: string;
  children: ReactNode;
}

/** A line of a list: what stands in it, side by side. */
export function Line({ to, children }: LineProps) {
  return (
    <li className={css.line}>
      {to ? (
        <Link to={to} className={`${css.inside} ${css.leads}`}>
          {children}
        </Link>
      ) : (
        <div className={css.inside}>{children}</div>
      )}
    </li>
  );
}
