/** The residual current devices of a board: tested once, each for all circuits behind it. */
import { useMemo } from "react";
import type { Status } from "../api/client";
import type { Entity, Place } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { ReadingCell } from "../fields/ReadingCell";
import { applies, type Asked, type Column } from "./columns";
import css from "./Devices.module.css";

interface Props {
  devices: Entity[];
  circuits: Entity[];
  columns: Column[];
  asked: Map<string, Asked>;
  marks: Record<string, Status>;
}

export function Devices({ devices, circuits, columns, asked, marks }: Props) {
  return (
    <section className={css.devices} aria-label="Residual current devices">
      {devices.map((device) => (
        <div key={device.id} className={css.device}>
          <div className={css.name}>
            <b>{nameOf(device)}</b>{" "}
            <span>{device.values.rated_ma != null ? `${String(device.values.rated_ma)} mA` : "rating missing"}</span>
            <small>{behind(device, circuits)}</small>
          </div>
          {columns
            .filter((column) => applies(column, device, asked))
            .map((column) => (
              <Test key={column.field} device={device} column={column} status={marks[`${device.id}.${column.field}`]} />
            ))}
        </div>
      ))}
    </section>
  );
}

function behind(device: Entity, circuits: Entity[]): string {
  if (device.values.place === "whole board") return "in front of the whole board";
  const ways = circuits
    .filter((circuit) => circuit.values.rcd_id === device.id)
    .map((circuit) => String(circuit.values.way ?? "?"));
  return ways.length ? `ways ${ways.join(", ")}` : "nothing behind it yet";
}

function Test({ device, column, status }: { device: Entity; column: Column; status?: Status }) {
  const { id } = device;
  const place = useMemo<Place>(() => ({ kind: "rcd", id, field: column.field }), [id, column.field]);
  const label = `${nameOf(device)}, ${column.head.join(" ")}`.trim();
  return (
    <div className={css.test} style={{ width: column.width }}>
      <span>{column.head.join(" ").trim()}</span>
      <ReadingCell place={place} label={label} check={column.check} status={status} boxed />
    </div>
  );
}
