/** The way to the place something speaks of: its stage, and there its figure or its observation. */
import { useCallback } from "react";
import { useNavigate } from "react-router";
import type { Stage } from "../api/client";
import { focusOn } from "./desk";
import { useInspection } from "./open";
import type { Kind } from "./types";

export interface Target {
  stage: Stage | "";
  entity: string;
  id: string;
  field?: string;
  /** Observation that is opened at the coding desk. */
  observation?: string;
}

export function useGoTo(): (to: Target) => void {
  const navigate = useNavigate();
  const inspection = useInspection((s) => s.model?.id) ?? "";
  return useCallback(
    ({ stage, entity, id, field, observation }: Target) => {
      navigate(`/inspection/${inspection}/${stage}${observation ? `?of=${observation}` : ""}`);
      // The stage sets its own order and focus as it opens; the figure is taken up once it stands.
      if (field && !observation) setTimeout(() => focusOn({ kind: entity as Kind, id, field }), 60);
    },
    [navigate, inspection],
  );
}
