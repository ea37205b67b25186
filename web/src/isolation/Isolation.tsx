/** Safe isolation: the steps in their order, and when, with which lock, each board was proved dead. */
import { children } from "../inspection/model";
import { setField, useInspection } from "../inspection/sync";
import { nameOf } from "../inspection/words";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { StageHead } from "../ui/StageHead";

const STEPS = [
  "Agree the power-off with the occupier: medical equipment, freezer, fish.",
  "Prove the tester on a known source.",
  "Isolate, lock off and tag; keep the key on you.",
  "Test every pairing dead: L–N, L–E, N–E, at the board and each outgoing way.",
  "Prove the tester again.",
];

export default function Isolation() {
  const model = useInspection((s) => s.model);
  const boards = model ? children(model, "board", model.id) : [];
  return (
    <>
      <StageHead title="Isolation" line="proved dead before covers and conductors are touched" />
      <div className={form.form}>
        <ol style={{ listStyle: "decimal", marginLeft: 20, marginBottom: 20 }}>
          {STEPS.map((step) => (
            <li key={step} style={{ padding: "3px 0" }}>
              {step}
            </li>
          ))}
        </ol>
        {boards.length === 0 && <p>No board yet: add one under Boards, then record its isolation here.</p>}
        <ul className={form.rows}>
          {boards.map((board) => {
            const at = (field: string) => ({ kind: "board" as const, id: board.id, field });
            const when = board.values.isolated_at ? new Date(String(board.values.isolated_at)) : null;
            return (
              <li key={board.id}>
                <div className={form.group} style={{ alignItems: "end", marginBottom: 0 }}>
                  <div>
                    <b>{nameOf(board)}</b>
                    <p style={{ fontSize: 20, fontWeight: 700, minHeight: 30 }}>
                      {when ? `proved dead ${when.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}, ${when.toLocaleDateString("en-GB", { day: "numeric", month: "short" })}` : "not recorded"}
                    </p>
                  </div>
                  <FieldInput place={at("isolated_lock")} />
                  {when ? (
                    <button type="button" className={form.button} onClick={() => setField(at("isolated_at"), null)}>
                      Take back
                    </button>
                  ) : (
                    <button
                      type="button"
                      className={`${form.button} ${form.primary}`}
                      onClick={() => setField(at("isolated_at"), new Date().toISOString())}
                    >
                      All five done, proved dead now
                    </button>
                  )}
                </div>
              </li>
            );
          })}
        </ul>
      </div>
    </>
  );
}
