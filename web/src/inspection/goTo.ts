/** The way to the place something speaks of: its stage, and there its figure or its observation. */
import { useCallback } from "react";
import { useNavigate } from "react-router";
import type { Stage } from "../api/client";
import { aimAt } from "./desk";
import { useInspection } from "./open";
import { placeOf } from "./types";

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
      if (stage && field && !observation) aimAt({ stage, place: placeOf(entity, id, field) });
      navigate(`/inspection/${inspection}/${stage}${observation ? `?of=${observation}` : ""}`);
    },
    [navigate, inspection],
  );
}
