import { CategoryScale, Chart, LinearScale, LineElement, PointElement, Tooltip } from "chart.js";
import { Line } from "react-chartjs-2";
import { useThemeColours } from "@/ui/theme-colours";

Chart.register(CategoryScale, LinearScale, LineElement, PointElement, Tooltip);

interface StandingChartProps {
  readonly points: readonly { readonly day: string; readonly percent: number; readonly figure: string }[];
}

/** How the course stood over time. The table beside it says the same. */
export function StandingChart({ points }: StandingChartProps) {
  const colours = useThemeColours();
  return (
    <div className="h-52" aria-hidden="true">
      <Line
        data={{
          labels: points.map(({ day }) => day),
          datasets: [
            {
              data: points.map(({ percent }) => percent),
              borderColor: colours.mark,
              backgroundColor: colours.mark,
              borderWidth: 2,
              pointRadius: 4,
              stepped: true,
            },
          ],
        }}
        options={{
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: { grid: { display: false }, ticks: { color: colours.ink } },
            y: {
              min: 0,
              max: 100,
              grid: { color: colours.line },
              ticks: { color: colours.ink, callback: (value) => `${value} %` },
            },
          },
          plugins: { tooltip: { callbacks: { label: ({ dataIndex }) => points[dataIndex]?.figure ?? "" } } },
        }}
      />
    </div>
  );
}
