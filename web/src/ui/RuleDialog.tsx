/** A rule of the job as the project's own guide has it: what it asks, its formula, its limits, where it comes from. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, answer } from "../api/client";
import css from "./RuleDialog.module.css";

export function RuleDialog({ number, close }: { number: string; close: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const rules = useQuery({ queryKey: ["rules"], queryFn: () => answer(api.GET("/api/rules")), staleTime: Number.POSITIVE_INFINITY });
  useEffect(() => {
    if (!dialog.current?.open) dialog.current?.showModal();
  }, []);
  // A whole section, `rule 9`, is every rule of it.
  const found = (rules.data ?? []).filter((rule) => rule.number === number || (!number.includes(".") && rule.number.startsWith(`${number}.`)));
  return (
    <dialog
      ref={dialog}
      className={css.dialog}
      aria-label={`Rule ${number}`}
      onCancel={(event) => {
        event.preventDefault();
        close();
      }}
      onClick={(event) => event.target === dialog.current && close()}
    >
      <div className={css.inside}>
        {rules.isPending && <p>Opening the rules …</p>}
        {rules.isError && <p role="alert">The rules cannot be read just now; the verdict stands as it is.</p>}
        {rules.isSuccess && found.length === 0 && <p>There is no rule {number} in the guide.</p>}
        {found.map((rule) => (
          <section key={rule.number}>
            <h2>
              {rule.number} {rule.title}
            </h2>
            {rule.text.map((paragraph, i) => (
              <p key={i} data-formula={paragraph.startsWith("= ") || undefined}>
                {paragraph.replace(/^= /, "")}
              </p>
            ))}
          </section>
        ))}
        <button type="button" autoFocus onClick={close}>
          Close
        </button>
      </div>
    </dialog>
  );
}
