/** What the page and the thread with the rules say to each other. */

/** What can be asked of the judge of a device (dorrik/core/judging/device_judge.py), and of what words papers beside it
 * (dorrik/report/device_papers.py). */
export type What = "open" | "write" | "heard" | "settled" | "whole" | "paper";

/** start: take the rules from that folder, then answer; others: a question to the judge, in JSON. */
export type Asked = { n: number; start: string } | { n: number; what: What; text: string };

/** text: the judge's answer, in JSON; took: how long that took, milliseconds; heap: bytes that Python
 * has for itself; error: what went wrong, and whether the rules can still be asked after it. */
export type Told =
  { n: number; text: string; took: number; heap: number } | { n: number; error: string; goesOn: boolean };
