/** What the page and the thread with the typesetter say to each other. */

/** template: its name; inputs: what it reads, as text; files: drawings by the path under which it names them. */
export interface Job {
  template: string;
  inputs: Record<string, string>;
  files: Record<string, string>;
}

export type Asked = { n: number; job: Job };

/** svg: all pages in one drawing (pages.ts takes it apart); error: what went wrong. */
export type Told = { n: number; svg: string } | { n: number; error: string };
