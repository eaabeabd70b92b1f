import { Chart, LinearScale, type Plugin, PointElement, ScatterController } from "chart.js";
import { Scatter } from "react-chartjs-2";
import { useThemeColours } from "@/ui/theme-colours";
import { t } from "@/words/t";

Chart.register(LinearScale, PointElement, ScatterController);

/** A question as a point: its number, what share of its marks was earned, and how it tells strong from weak. */
export interface QuestionPoint {
  readonly number: number;
  /** 0 to 1. */
  readonly facility: number;
  /** -1 to 1. */
  readonly discrimination: number;
}

const RADIUS = 11;

/** Writes each question's number into its point, and shades where those who know most are misled. */
function drawn(
  points: readonly QuestionPoint[],
  colours: ReturnType<typeof useThemeColours>,
): Plugin<"scatter"> {
  return {
    id: "numbers",
    beforeDatasetsDraw({ ctx, chartArea, scales }) {
      const zero = scales.y?.getPixelForValue(0) ?? chartArea.bottom;
      if (zero >= chartArea.bottom) return;
      ctx.save();
      ctx.fillStyle = colours.refused;
      ctx.fillRect(chartArea.left, zero, chartArea.width, chartArea.bottom - zero);
      ctx.restore();
    },
    afterDatasetsDraw(chart) {
      const { ctx } = chart;
      ctx.save();
      ctx.font = ["bold", "12px", getComputedStyle(chart.canvas).fontFamily].join(" ");
      ctx.textAlign = "center";
      ctx.textBaseline = "middle";
      ctx.fillStyle = colours.paper;
      for (const [i, { x, y }] of chart.getDatasetMeta(0).data.entries())
        ctx.fillText(`${points[i]?.number ?? ""}`, x, y + 0.5);
      ctx.restore();
    },
  };
}

/** Facility by discrimination, a point for each question. The table below says the same. */
export function QuestionsChart({ points }: { readonly points: readonly QuestionPoint[] }) {
  const colours = useThemeColours();
  const least = Math.min(0, ...points.map(({ discrimination }) => discrimination));
  return (
    <div className="relative h-[23rem] min-w-0 overflow-hidden" aria-hidden="true">
      <Scatter
        plugins={[drawn(points, colours)]}
        data={{
          datasets: [
            {
              data: points.map(({ facility, discrimination }) => ({ x: facility * 100, y: discrimination })),
              pointRadius: RADIUS,
              pointHoverRadius: RADIUS,
              pointBackgroundColor: points.map(({ discrimination }) =>
                discrimination < 0 ? colours.plum : colours.mark,
              ),
              pointBorderWidth: 0,
            },
          ],
        }}
        options={{
          animation: false,
          maintainAspectRatio: false,
          events: [],
          scales: {
            x: {
              min: 0,
              max: 100,
              title: { display: true, text: t("figures.questions-chart.share-earned"), color: colours.ink },
              ticks: { color: colours.ink, stepSize: 25, callback: (value) => `${value} %` },
              grid: { display: false },
              border: { color: colours.line },
            },
            y: {
              min: least < 0 ? Math.floor(least * 5 - 0.5) / 5 : 0,
              suggestedMax: 0.6,
              title: {
                display: true,
                text: t("figures.questions-chart.tells-strong-from-weak"),
                color: colours.ink,
              },
              ticks: { color: colours.ink, stepSize: 0.2 },
              grid: { color: colours.line },
              border: { color: colours.line },
            },
          },
        }}
      />
    </div>
  );
}
