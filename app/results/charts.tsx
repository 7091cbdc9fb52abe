/** Charts of a launch's results. */
import {
  Bar,
  BarChart,
  CartesianGrid,
  Line,
  LineChart,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";

export interface LinkBar {
  readonly words: string;
  readonly address: string;
  readonly people: number;
  readonly clicks: number;
}

const AXIS = { stroke: "var(--ink-3)", fontSize: 11 } as const;
const TIP = {
  contentStyle: {
    background: "var(--sheet)",
    border: "1px solid var(--line-strong)",
    borderRadius: 6,
    color: "var(--ink)",
  },
} as const;

/** People who followed each link. */
export function LinkChart({ links }: { links: readonly LinkBar[] }) {
  return (
    <div style={{ height: 46 + links.length * 38 }} aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          accessibilityLayer={false}
          data={[...links]}
          layout="vertical"
          margin={{ left: 8, right: 24 }}
        >
          <CartesianGrid horizontal={false} stroke="var(--line)" />
          <XAxis type="number" allowDecimals={false} {...AXIS} />
          <YAxis type="category" dataKey="words" width={170} {...AXIS} />
          <Tooltip {...TIP} cursor={{ fill: "var(--bench)" }} />
          <Bar
            dataKey="people"
            name="people"
            fill="var(--plum)"
            barSize={16}
            isAnimationActive={false}
          />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}

export interface Hour {
  readonly hour: number;
  readonly opened: number;
  readonly clicked: number;
}

/** Opens and clicks by the hour since it was sent. */
export function HourChart({ hours }: { hours: readonly Hour[] }) {
  return (
    <div className="h-[190px]" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart accessibilityLayer={false} data={[...hours]} margin={{ left: -12, right: 12 }}>
          <CartesianGrid vertical={false} stroke="var(--line)" />
          <XAxis dataKey="hour" unit=" h" {...AXIS} />
          <YAxis allowDecimals={false} {...AXIS} />
          <Tooltip {...TIP} labelFormatter={(hour) => `hour ${hour}`} />
          <Line
            dataKey="opened"
            name="opens"
            stroke="var(--plum)"
            dot={false}
            strokeWidth={2}
            isAnimationActive={false}
          />
          <Line
            dataKey="clicked"
            name="clicks"
            stroke="var(--leaf)"
            dot={false}
            strokeWidth={2}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
