import { BarElement, CategoryScale, Chart, LinearScale, Tooltip } from "chart.js";
import { Bar } from "react-chartjs-2";
import type { ClassStep } from "@/core/gradebook/class-marks";
import { useThemeColours } from "@/ui/theme-colours";

Chart.register(BarElement, CategoryScale, LinearScale, Tooltip);

/** How many of a class reached which tenth of the marks, one's own step filled. The table beside it says the same. */
export function ClassChart({ steps }: { readonly steps: readonly ClassStep[] }) {
  const colours = useThemeColours();
  return (
    <div className="h-44" aria-hidden="true">
      <Bar
        data={{
          labels: steps.map(({ from, to }) => `${from}–${to}`),
          datasets: [
            {
              data: steps.map(({ count }) => count),
              backgroundColor: steps.map(({ own }) => (own ? colours.mark : colours.faint)),
            },
          ],
        }}
        options={{
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: { grid: { display: false }, ticks: { color: colours.ink, maxRotation: 0 } },
            y: { grid: { color: colours.line }, ticks: { color: colours.ink, precision: 0 } },
          },
        }}
      />
    </div>
  );
}
