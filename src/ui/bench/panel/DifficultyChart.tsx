"use client";
import { Box } from "@chakra-ui/react";
import { BarController, BarElement, CategoryScale, Chart, LinearScale } from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef } from "react";
import type { GroupPart } from "../../../core/ensemble";

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

/** Features that are told, and the height of each. Pixels. */
const TOLD = 6;
const EACH = 20;

/** What makes a part hard: the points of its features, the greatest first. */
export function DifficultyChart({ part }: { part: GroupPart }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { resolvedTheme } = useTheme();
  const told = [...part.difficulty.features]
    .filter((f) => f.points >= 0.5)
    .sort((a, b) => b.points - a.points)
    .slice(0, TOLD);
  const key = told.map((f) => `${f.name} ${f.points.toFixed(1)}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes colours; the key stands for what is told
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const colour = (name: string) => getComputedStyle(element).getPropertyValue(`--chakra-colors-${name}`) || "#5E5248";
    const chart = new Chart(element, {
      type: "bar",
      data: {
        labels: told.map((f) => f.name),
        datasets: [{ data: told.map((f) => f.points), backgroundColor: colour("woad") }],
      },
      options: {
        indexAxis: "y",
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
        scales: {
          x: { display: false, min: 0 },
          y: {
            grid: { display: false },
            border: { display: false },
            ticks: { color: colour("ink"), font: { size: 12 } },
          },
        },
      },
    });
    return () => chart.destroy();
  }, [key, resolvedTheme]);
  const words = told.map((f) => `${f.name} ${Math.round(f.points)}`).join(", ");
  return (
    <Box mt="8px" h={`${told.length * EACH + 12}px`} position="relative">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`How hard, ${Math.round(part.difficulty.difficulty)} of 100: ${words}`}
      />
    </Box>
  );
}
