/** The session ended in the middle of the work: signed in again, it goes on. */
import { useQueryClient } from "@tanstack/react-query";
import type { Me } from "../api/client";
import { resume } from "../inspection/open";
import { SignInForm } from "../session/SignInForm";
import { Dialog } from "../ui/Dialog";
import css from "./InspectionScreen.module.css";

export default function EndedSession({ me: { id: known, email } }: { me: Me }) {
  const queries = useQueryClient();
  return (
    <Dialog title="Sign in again" width="26rem" covers>
      <p className={css.ended}>
        <b>Your session has ended.</b> Nothing you typed is lost: it is kept on this device and is sent as soon as you
        have signed in.
      </p>
      <SignInForm
        email={email}
        done={(me) => {
          // Somebody else: their entries go under their own name, so the inspection is opened anew.
          if (me.id !== known) return window.location.reload();
          queries.setQueryData(["session"], me);
          resume();
        }}
      />
    </Dialog>
  );
}
