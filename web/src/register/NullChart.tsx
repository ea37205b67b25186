/** The nulls of a lead set over time, around what the leads should read; those that were not accepted are hollow. */
import { Chart, useChart } from "@chakra-ui/charts";
import { VisuallyHidden } from "@chakra-ui/react";
import { ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from "recharts";
import type { Schemas } from "../api/client";
import { day } from "../ui/when";

type Null = Schemas["NullOut"];

interface Props {
  log: readonly Null[];
  /** What the set should read (Ω). */
  mean: number | null;
}

const label = (time: number) => day(new Date(time).toISOString().slice(0, 10), { day: "numeric", month: "short" });

export default function NullChart({ log, mean }: Props) {
  const data = log.map((null_) => ({ at: Date.parse(null_.at), ohm: null_.ohm, accepted: null_.accepted }));
  const chart = useChart({ data, series: [{ name: "ohm", color: "ink" }] });
  const description = log.map((null_) => `${day(null_.at.slice(0, 10))}: ${null_.ohm.toFixed(2)} Ω`).join(", ");
  return (
    <>
      <VisuallyHidden>Nulls: {description}</VisuallyHidden>
      <Chart.Root chart={chart} height="6rem" aria-hidden="true">
        <ResponsiveContainer width="100%" height="100%">
          <ScatterChart margin={{ top: 6, right: 10, bottom: 0, left: -18 }}>
            <XAxis
              dataKey="at"
              type="number"
              domain={["dataMin", "dataMax"]}
              tickFormatter={label}
              tickCount={3}
              stroke={chart.color("line")}
              tick={{ fill: chart.color("quiet"), fontSize: 12 }}
            />
            <YAxis
              dataKey="ohm"
              type="number"
              domain={[(low: number) => Math.max(0, low - 0.02), (high: number) => high + 0.02]}
              tickFormatter={(ohm: number) => ohm.toFixed(2)}
              tickCount={3}
              stroke={chart.color("line")}
              tick={{ fill: chart.color("quiet"), fontSize: 12 }}
            />
            {mean !== null && <ReferenceLine y={mean} stroke={chart.color("quiet")} strokeDasharray="4 3" />}
            <Scatter data={chart.data} isAnimationActive={false} shape={Dot} />
          </ScatterChart>
        </ResponsiveContainer>
      </Chart.Root>
    </>
  );
}

interface DotProps {
  cx?: number;
  cy?: number;
  payload?: { accepted: boolean };
}

function Dot({ cx, cy, payload }: DotProps) {
  return (
    <circle
      cx={cx}
      cy={cy}
      r="4"
      fill={payload?.accepted ? "var(--d-colors-ink)" : "var(--d-colors-sheet)"}
      stroke="var(--d-colors-ink)"
      strokeWidth="1.5"
      strokeDasharray={payload?.accepted ? undefined : "2 1.5"}
    />
  );
}
