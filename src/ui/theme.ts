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
  /** A second line on the same side of the tune. */
  plum: ["#4F2C55", "#E9D0E4"],
  /** Cloth of the weave: in dim colours quieter than the notes. Never under text of its own. */
  woadCloth: ["#2B5A7A", "#3A6482"],
  madderCloth: ["#A8402E", "#93503F"],
  lichenCloth: ["#5F7138", "#62743F"],
  heatherCloth: ["#7A4E73", "#76536F"],
  walnutCloth: ["#5E5248", "#6F6358"],
  weldCloth: ["#C99A1B", "#9A7A22"],
  /** The paler cloth of an echo. */
  woadPale: ["#9DB6C8", "#2C4456"],
  madderPale: ["#D9A79D", "#5C372E"],
  lichenPale: ["#B6C199", "#414D2E"],
  heatherPale: ["#C0A5BC", "#4E3B4B"],
  walnutPale: ["#B3A99F", "#4A423B"],
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
