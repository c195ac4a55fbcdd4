"use client";
import type { ComponentProps } from "react";
import type { CleanSvg } from "../../engraving";

type Props = Omit<ComponentProps<"div">, "children" | "dangerouslySetInnerHTML"> & { svg: CleanSvg };

/** Engraved music in a page. The one place where a drawing is put in, and it takes cleaned ones only. */
export const Engraving = ({ svg, ...rest }: Props) => (
  // biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned, as its type says
  <div data-engraving {...rest} dangerouslySetInnerHTML={{ __html: svg }} />
);
