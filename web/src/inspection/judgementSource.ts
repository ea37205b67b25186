/** Where verdicts come from: today the server, which judges what it was sent; the same rules on this device can follow. */
import type { Judgement, Schemas } from "../api/client";

/** Verdicts, and which state of the inspection they are of. */
export interface Judged {
  judgement: Judgement | null;
  /** The sequence number that the judgement is of; null where a change of it did not fit and the whole is asked for. */
  judgedSeq: number | null;
}

/** What stands here: verdicts, and the sequence number up to which everything is known. */
interface Stands extends Judged {
  seq: number;
}

export interface JudgementSource {
  /** After the server took a batch. sentWith: the sequence number of the verdicts that stood here as it was sent. */
  afterReceipt(stands: Stands, receipt: Schemas["Receipt"], sentWith: number | null): Judged;
  /** After others' changes came in. */
  afterNews(stands: Stands, news: Schemas["News"]): Judged;
}

/** The server judges; it says the whole, or what became different in what stands here. */
export const fromServer: JudgementSource = {
  afterReceipt(stands, receipt, sentWith) {
    if (isOvertaken(stands, receipt.seq)) return { judgement: stands.judgement, judgedSeq: stands.judgedSeq };
    if (receipt.judgement) return { judgement: receipt.judgement, judgedSeq: receipt.seq };
    if (receipt.change && stands.judgement && sentWith !== null && sentWith === stands.judgedSeq) {
      return { judgement: changed(stands.judgement, receipt.change), judgedSeq: receipt.seq };
    }
    return { judgement: stands.judgement, judgedSeq: null };
  },
  afterNews(stands, news) {
    const { judgement, judgedSeq } = stands;
    if (isOvertaken(stands, news.seq)) return { judgement, judgedSeq };
    return news.judgement ? { judgement: news.judgement, judgedSeq: news.seq } : { judgement, judgedSeq: null };
  },
};

/** Answers overtake each other on their way: verdicts of an earlier state never replace those of a later one, for no
 * further answer would mend them. */
const isOvertaken = ({ seq, judgedSeq }: Stands, of: number): boolean => of < Math.max(seq, judgedSeq ?? 0);

/** A judgement with what the server says became different in it. */
export function changed(before: Judgement, change: Schemas["JudgementChange"]): Judgement {
  const old = before as unknown as Record<string, unknown>;
  const now: Record<string, unknown> = { ...old, ...change.set };
  for (const [name, runs] of Object.entries(change.lists)) {
    const list = old[name] as unknown[];
    now[name] = runs.flatMap((run) => run.new ?? list.slice(run.start ?? 0, run.end ?? 0));
  }
  for (const [name, part] of Object.entries(change.maps)) {
    const kept = Object.entries(old[name] as object).filter(([key]) => !part.gone.includes(key));
    now[name] = { ...Object.fromEntries(kept), ...part.set };
  }
  return now as unknown as Judgement;
}
