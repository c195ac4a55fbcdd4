import { createSystem, defaultConfig, defineConfig } from "@chakra-ui/react";

/** The dyes and grounds of docs/look.md, light and dim. Every text pair keeps 4.5:1. */
const DYES = {
  fleece: ["#FBF8F1", "#1D1A17"],
  linen: ["#F2ECDF", "#292520"],
  cord: ["#DDD3C0", "#453E36"],
  ink: ["#2A2522", "#F0E8DA"],
  quiet: ["#5E5248", "#B9AC9B"],
  woad: ["#2B5A7A", "#82B4D8"],
  madder: ["#A8402E", "#E88F78"],
  weld: ["#C99A1B", "#D9AE3D"],
  lichen: ["#5F7138", "#A9C07E"],
  heather: ["#7A4E73", "#CBA0C6"],
  walnut: ["#5E5248", "#B9AC9B"],
  /** The paler cloth of an echo; never under text of its own. */
  woadPale: ["#9DB6C8", "#45657C"],
  madderPale: ["#D9A79D", "#7E4A3E"],
  lichenPale: ["#B6C199", "#5D6B44"],
  heatherPale: ["#C0A5BC", "#6E5469"],
  walnutPale: ["#B3A99F", "#6B6157"],
  /** Ground of the transport and of whatever is selected, with the text on it. */
  block: ["#2A2522", "#F0E8DA"],
  onBlock: ["#FBF8F1", "#1D1A17"],
  bar: ["#2A2522", "#12100E"],
  onBar: ["#FBF8F1", "#F0E8DA"],
  onBarQuiet: ["#C9BFAF", "#B9AC9B"],
  wash: ["#DCE7EF", "#243645"],
  washMadder: ["#F5E1DB", "#47291F"],
} as const;

const config = defineConfig({
  globalCss: {
    html: { fontSize: "15px", height: "100%" },
    body: { bg: "fleece", color: "ink", fontFamily: "body", height: "100%", fontFeatureSettings: "'tnum' 1" },
  },
  theme: {
    tokens: {
      fonts: {
        body: { value: "var(--font-plain), var(--font-plain-ext), sans-serif" },
        heading: { value: "var(--font-serif), var(--font-serif-ext), serif" },
      },
      durations: { quick: { value: "120ms" } },
    },
    semanticTokens: {
      colors: Object.fromEntries(
        Object.entries(DYES).map(([name, [light, dim]]) => [name, { value: { _light: light, _dark: dim } }]),
      ),
    },
  },
});

export const system = createSystem(defaultConfig, config);
