/** The form to sign in with, alone on its screen or over an open inspection whose session has ended. */
import { type FormEvent, useState } from "react";
import { api, answer, type Me, Refused, Unreachable } from "../api/client";
import { explain } from "../api/errors";
import { endSession, isLeaving } from "../api/leaving";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";
import css from "./SignInForm.module.css";

export function SignInForm({ done, email: known = "" }: { done: (me: Me) => void; email?: string }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [asksCode, setAsksCode] = useState(false);
  const [trouble, setTrouble] = useState("");
  const [message, setTold] = useState("");
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setTrouble("");
    try {
      // Whoever signed out here without a server is signed out there first.
      if (isLeaving() && !(await endSession())) throw new Unreachable();
      const body = { email, password, code: asksCode && code.trim() ? code : null };
      done(await answer(api.POST("/api/session", { body })));
    } catch (error) {
      const what = error instanceof Refused ? (error.body as { code?: string } | null)?.code : "";
      if (what === "code" && !asksCode) setAsksCode(true);
      else setTrouble(explain(error, "Try again in a moment."));
    }
    setBusy(false);
  }

  async function forgotten() {
    setTrouble("");
    try {
      const { mail } = await answer(api.POST("/api/account/forgotten", { body: { email } }));
      setTold(
        mail
          ? "If somebody signs in with that address, a link is on its way to it."
          : "No mail is set up here: a supervisor of your firm gives you a new link.",
      );
    } catch (error) {
      setTrouble(explain(error, "Try again in a moment."));
    }
  }

  return (
    <form onSubmit={submit} className={css.form}>
      <TextField label="Email" type="email" autoComplete="username" value={email} change={setEmail} required />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        value={password}
        change={setPassword}
        refused={asksCode ? undefined : trouble}
        required
      />
      {asksCode && (
        <TextField
          label="Code of your device"
          autoComplete="one-time-code"
          figure
          value={code}
          change={setCode}
          refused={trouble}
          hint="The six figures it shows now, or one of your recovery codes."
          autoFocus
          required
        />
      )}
      <Button type="submit" variant="action" size="lg" busy={busy}>
        Sign in
      </Button>
      {message ? (
        <p role="status">{message}</p>
      ) : (
        <Button variant="quiet" disabled={!email.includes("@")} onClick={forgotten}>
          Forgotten the password?
        </Button>
      )}
    </form>
  );
}
