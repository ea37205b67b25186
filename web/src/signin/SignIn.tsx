/** The first screen of who is not signed in. */
import { useEffect, useState } from "react";
import type { Me } from "../api/client";
import { isLeaving, tellWhenReachable } from "../api/leaving";
import { WIPED } from "../api/pin";
import { SignInForm } from "../session/SignInForm";
import { moment } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";
import css from "./SignIn.module.css";

export default function SignIn({ done }: { done: (me: Me) => void }) {
  const [leaving, setLeaving] = useState(isLeaving);
  const wiped = localStorage.getItem(WIPED);
  useEffect(() => (leaving ? tellWhenReachable(() => setLeaving(false)) : undefined), [leaving]);
  return (
    <main className={css.screen}>
      <div className={css.form}>
        <Wordmark large />
        <h1 className={css.title}>Sign in to your firm</h1>
        {wiped && (
          <p role="status" className={css.state}>
            <b>This device was wiped {moment(wiped)}.</b> What had not been sent is lost; all that had arrived is on the
            server.
          </p>
        )}
        {leaving && !wiped && (
          <p role="status" className={css.state}>
            <b>You are signed out on this device.</b> The server cannot be reached; it is told as soon as it can be.
          </p>
        )}
        <SignInForm
          done={(me) => {
            localStorage.removeItem(WIPED);
            done(me);
          }}
        />
        <p className={css.caution}>
          An aid to a competent person. The rule book, local rules and the inspector's judgement decide.
        </p>
      </div>
    </main>
  );
}
