/** The board builder: a line to type circuits into, way after way, without leaving the keyboard. */
import { useState } from "react";
import type { Value } from "../inspection/types";
import { cableAndDevice } from "../inspection/words";
import css from "./QuickAdd.module.css";
import { type Offer, offers } from "./quick";

export function QuickAdd({ way, put }: { way: number; put: (fields: Record<string, Value>) => string }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const [last, setLast] = useState<Offer | null>(null);
  const found = offers(text, last);
  const take = (offer: Offer | undefined) => {
    if (!offer) return;
    put(offer.fields);
    setLast(offer);
    setText("");
    setAt(0);
  };
  const key = (event: React.KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter") take(found[at]);
    else if (event.key === "Escape") setText("");
    else return;
    event.preventDefault();
  };
  return (
    <div className={css.quick}>
      <label htmlFor="quick">
        Way <b>{way}</b>
      </label>
      <input
        id="quick"
        role="combobox"
        aria-label="Type a circuit"
        aria-expanded={found.length > 0}
        aria-controls="offers"
        aria-activedescendant={found[at] ? `offer-${at}` : undefined}
        placeholder="kit, lights up, sho 10/4 b40 30ma 1p, sp for spare, = for the last again"
        autoComplete="off"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={key}
      />
      {found.length > 0 && (
        <ul id="offers" role="listbox" aria-label="Usual circuits" ref={(list) => list?.scrollIntoView({ block: "nearest" })}>
          {found.map((offer, i) => (
            <li key={offer.name + i} id={`offer-${i}`} role="option" aria-selected={i === at} onMouseDown={(event) => event.preventDefault()} onClick={() => take(offer)}>
              <b>{offer.name}</b>
              <span>{[offer.fields.form, cableAndDevice(offer.fields), offer.fields.rcd_rated_ma && `${offer.fields.rcd_rated_ma} mA`].filter(Boolean).join(" · ")}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
