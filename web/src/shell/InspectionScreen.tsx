/** The inspection: run sheet, work and margin, with the pad under them where figures are entered. */
import { Box, Button } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { useNavigate, useParams } from "react-router";
import type { Me, Stage } from "../api/client";
import { useReference } from "../api/reference";
import { commit, focusOn, observe, setOrder, useDesk } from "../inspection/desk";
import { dismiss, leave, load, resume, setField, undo, useInspection } from "../inspection/sync";
import { GoOn } from "../brief/OnSite";
import { SignInForm } from "../signin/SignIn";
import { Loading, Trouble } from "../ui/States";
import css from "./InspectionScreen.module.css";
import { Margin } from "./Margin";
import { ReadingPad } from "./ReadingPad";
import { RunSheet, STAGES } from "./RunSheet";
import { TopBar } from "./TopBar";

const Brief = lazy(() => import("../brief/Brief"));
const Intake = lazy(() => import("../intake/Intake"));
const Isolation = lazy(() => import("../isolation/Isolation"));
const Boards = lazy(() => import("../boards/Boards"));
const TestGrid = lazy(() => import("../tests/TestGrid"));
const Observations = lazy(() => import("../observations/Observations"));
const ObservationDialog = lazy(() => import("../observations/ObservationDialog"));
const Report = lazy(() => import("../report/Report"));

const WITH_PAD: Stage[] = ["intake", "dead", "live"];

export default function InspectionScreen({ me }: { me: Me }) {
  const { id = "", stage = "brief" } = useParams();
  const navigate = useNavigate();
  const reference = useReference();
  const model = useInspection((s) => s.model);
  const error = useInspection((s) => s.error);
  const signedOut = useInspection((s) => s.line === "signed-out");
  const observing = useDesk((s) => s.observing);
  const current = (STAGES.find((s) => s.stage === stage)?.stage ?? "brief") as Stage;

  useEffect(() => {
    void load(id, me);
    return leave;
  }, [id, me]);

  useEffect(() => {
    return () => {
      commit();
      focusOn(null);
      setOrder([]);
    };
  }, [current]);

  useEffect(() => {
    function keyDown(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      const typing = target.matches("input, textarea, select, [contenteditable]");
      if ((event.ctrlKey || event.metaKey) && event.key === "z" && (!typing || target.matches("[data-cell]"))) {
        event.preventDefault();
        const where = undo();
        if (where) focusOn(where);
      } else if (event.altKey && /^[1-8]$/.test(event.key)) {
        event.preventDefault();
        navigate(`/inspection/${id}/${STAGES[Number(event.key) - 1]?.stage}`);
      } else if (!typing && !event.ctrlKey && !event.metaKey && event.key.toLowerCase() === "o" && !observing) {
        event.preventDefault();
        observe({ kind: "inspection", id });
      }
    }
    document.addEventListener("keydown", keyDown);
    return () => document.removeEventListener("keydown", keyDown);
  }, [id, navigate, observing]);

  if (error && !model) return <Trouble message={error} again={() => load(id, me)} />;
  if (signedOut && !model) return <EndedSession me={me} />;
  if (!model || model.id !== id || !reference) return <Loading what="the inspection" />;
  return (
    <div className={css.screen}>
      <TopBar />
      <RunSheet stage={current} />
      <main className={css.work} id="work">
        <Notices />
        <OnHold me={me} />
        <Suspense fallback={<Loading what="this stage" />}>
          {current === "brief" && <Brief me={me} />}
          {current === "intake" && <Intake />}
          {current === "isolation" && <Isolation me={me} />}
          {current === "boards" && <Boards />}
          {(current === "dead" || current === "live") && <TestGrid key={current} live={current === "live"} />}
          {current === "observations" && <Observations />}
          {current === "report" && <Report />}
        </Suspense>
      </main>
      <Margin stage={current} />
      {WITH_PAD.includes(current) && (
        <div className={css.pad}>
          <ReadingPad />
        </div>
      )}
      {observing && (
        <Suspense fallback={null}>
          <ObservationDialog about={observing} />
        </Suspense>
      )}
      {signedOut && <EndedSession me={me} />}
    </div>
  );
}

function Notices() {
  const notices = useInspection((s) => s.model?.notices) ?? [];
  const error = useInspection((s) => s.error);
  return (
    <>
      {error && (
        <div className={css.notice} role="alert">
          {error}
        </div>
      )}
      {notices.map((notice) => (
        <div key={notice.id} className={css.notice} role="status">
          <span>{notice.text}</span>
          {notice.undo && (
            <Button
              size="sm"
              variant="outline"
              borderColor="ink"
              onClick={() => {
                const back = notice.undo!;
                setField({ kind: back.kind, id: back.id, field: back.field }, back.value);
                dismiss(notice.id);
              }}
            >
              Put the earlier one back
            </Button>
          )}
          <Button size="sm" variant="ghost" onClick={() => dismiss(notice.id)}>
            Seen
          </Button>
        </div>
      ))}
    </>
  );
}

/** On hold: said on every stage. Nothing is locked; dead tests and notes go on. */
function OnHold({ me }: { me: Me }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const values = useInspection((s) => s.model?.entities[id]?.values);
  if (!values?.held_at) return null;
  const back = values.return_on ? new Date(`${String(values.return_on)}T12:00:00Z`).toLocaleDateString("en-GB", { day: "numeric", month: "short" }) : null;
  return (
    <div className={css.notice} role="note">
      <span>
        <b>On hold{back ? `, return visit ${back}` : ""}.</b> {values.held_reason ? String(values.held_reason) : "Say why under Brief."} Dead tests and notes stay open.
      </span>
      <GoOn inspection={id} me={me} />
    </div>
  );
}

function EndedSession({ me: { id: known, email } }: { me: Me }) {
  const queries = useQueryClient();
  return (
    <Box position="fixed" inset="0" bg="rgba(10,14,16,0.72)" display="grid" placeItems="center" p="4" zIndex="20" role="dialog" aria-label="Sign in again" aria-modal="true">
      <Box bg="paper" p="6" borderRadius="10px" w="full" maxW="24rem">
        <b>Your session has ended.</b>
        <p style={{ margin: "4px 0 16px" }}>Nothing you typed is lost: it is kept on this device and is sent as soon as you have signed in.</p>
        <SignInForm
          email={email}
          done={(me) => {
            // Somebody else: their entries go under their own name, so the inspection is opened anew.
            if (me.id !== known) return window.location.reload();
            queries.setQueryData(["session"], me);
            resume();
          }}
        />
      </Box>
    </Box>
  );
}
