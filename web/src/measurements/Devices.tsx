/** The residual current devices of a board: tested once, each for all circuits behind it. */
import { useChildren } from "../inspection/select";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import type { Column } from "./columns";
import css from "./Devices.module.css";
import { Figure } from "./Figure";
import { useApplying } from "./GridRow";

interface Props {
  boardId: string;
  columns: readonly Column[];
}

export function Devices({ boardId, columns }: Props) {
  const devices = useChildren("rcd", boardId);
  const circuits = useChildren("circuit", boardId);
  if (devices.length === 0) return null;
  return (
    <section className={css.devices} aria-label="Residual current devices">
      {devices.map((device) => (
        <Device key={device.id} device={device} behind={behind(device, circuits)} columns={columns} />
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

interface DeviceProps {
  device: Entity;
  behind: string;
  columns: readonly Column[];
}

function Device({ device, behind: where, columns }: DeviceProps) {
  const applying = useApplying(device.id, columns, "live");
  const name = nameOf(device);
  const rated = device.values.rated_ma;
  return (
    <div className={css.device}>
      <div className={css.name}>
        <b>{name}</b> <span>{rated == null ? "rating missing" : `${String(rated)} mA`}</span>
        <small>{where}</small>
      </div>
      {columns
        .filter((column) => applying.includes(column.field))
        .map((column) => (
          <div key={column.field} className={css.test} style={{ width: column.width }}>
            <span>{column.head.join(" ").trim()}</span>
            <Figure kind="rcd" id={device.id} column={column} of={name} boxed />
          </div>
        ))}
    </div>
  );
}
