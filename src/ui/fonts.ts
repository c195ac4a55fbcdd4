import localFont from "next/font/local";

// The fonts ship with the application; the extended Latin files come first so that both are always loaded together.
const plainExt = localFont({
  src: "../../node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2",
  weight: "200 800",
  variable: "--font-plain-ext",
  display: "swap",
  preload: false,
});
const plain = localFont({
  src: "../../node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2",
  weight: "200 800",
  variable: "--font-plain",
  display: "swap",
});
const serifExt = localFont({
  src: "../../node_modules/@fontsource-variable/literata/files/literata-latin-ext-opsz-normal.woff2",
  weight: "200 900",
  variable: "--font-serif-ext",
  display: "swap",
  preload: false,
});
const serif = localFont({
  src: "../../node_modules/@fontsource-variable/literata/files/literata-latin-opsz-normal.woff2",
  weight: "200 900",
  variable: "--font-serif",
  display: "swap",
});

export const fontVariables = [plainExt, plain, serifExt, serif].map((f) => f.variable).join(" ");
