import fc from "fast-check";
import { defaultTreeAdapter, parse } from "parse5";
import { describe, expect, it, test } from "vitest";
import { newWork, derive, sheetOf } from "../core/ensemble";
import { tuneOf } from "../testing/abc";
import { drawRows } from "../server/draw";
import { clean } from "./clean";

type Found = { tag: string; attributes: { name: string; value: string }[] };
/** Every element of a page, as browsers take its text. */
function elementsOf(html: string): Found[] {
  const found: Found[] = [];
  const walk = (node: Parameters<typeof defaultTreeAdapter.getChildNodes>[0]) => {
    for (const child of node.childNodes) {
      if (!defaultTreeAdapter.isElementNode(child)) continue;
      found.push({ tag: child.tagName, attributes: child.attrs });
      walk(child);
    }
  };
  walk(parse(`<div>${html}</div>`));
  return found;
}
const DRAWN = /^(html|head|body|div|svg|g|path|polygon|polyline|line|rect|ellipse|circle|text|tspan)$/i;
/** Everything in a page that could act or lead away. */
const acting = (svg: string) =>
  elementsOf(clean(svg)).flatMap(({ tag, attributes }) => [
    ...(DRAWN.test(tag) ? [] : [tag]),
    ...attributes
      .filter((a) => /^on|href|style|src/i.test(a.name) || /javascript:|url\(/i.test(a.value))
      .map((a) => a.name),
  ]);

describe("a drawing that goes into a page", () => {
  it("is the engraver's own, shape by shape", async () => {
    const work = newWork(tuneOf('"D"(3dcd "^slow & <soft>"d2 Adfd|~e2ge Bege|'));
    const [row] = await drawRows([sheetOf(work, derive(work))], 900);
    const svg = row!.svg;
    expect(clean(svg)).toBe(svg);
    const shapes = elementsOf(svg);
    expect(shapes.filter((e) => e.tag === "path").length).toBeGreaterThan(60);
    const field = shapes.filter((e) => e.tag === "svg")[1]?.attributes.find((a) => a.name.toLowerCase() === "viewbox");
    expect(field?.value).toMatch(/^0 0 /);
    expect(svg).toContain("slow &amp; &lt;soft&gt;");
  });
  test.each([
    ["<svg><script>alert(1)</script><g/></svg>", "<svg><g/></svg>"],
    ['<svg onload="alert(1)"><g onclick="x" id="a"/></svg>', '<svg><g id="a"/></svg>'],
    ['<svg><a href="javascript:alert(1)"><text>hi</text></a></svg>', "<svg></svg>"],
    ["<svg><foreignObject><div><b>x</b></div></foreignObject></svg>", "<svg></svg>"],
    ['<svg><image href="http://tunes.example/x.png"/><use href="#a"/></svg>', "<svg></svg>"],
    ['<svg><path fill="url(http://tunes.example)" d="M0 0"/></svg>', '<svg><path d="M0 0"/></svg>'],
    ["<svg><text>a <b>&amp; &lt;i&gt;</text></svg>", "<svg><text>a &amp; &lt;i&gt;</text></svg>"],
    ["<svg><style>svg{}</style><text>&nbsp;&#x41;</text></svg>", "<svg><text>&amp;nbsp;&#x41;</text></svg>"],
    ["<svg><g></svg>", "<svg><g></g></svg>"],
    ["<img src=x onerror=alert(1)><svg></svg>", "<svg></svg>"],

    ["<SVG><G/></SVG>", ""],
  ])("%s becomes %s", (from, to) => {
    expect(clean(from)).toBe(to);
  });
  it("never acts and never leads away, whatever comes in, and is the same cleaned twice", () => {
    const piece = fc.constantFrom(
      "<svg>",
      "</svg>",
      "<g>",
      "</g>",
      "<script>",
      "</script>",
      "<style>",
      "</style>",
      "<text>",
      "</text>",
      "<",
      ">",
      '"',
      "'",
      '<a href="javascript:x">',
      "<img src=x onerror=y>",
      "<svg/onload=x>",
      "<!--",
      "-->",
      "<![CDATA[",
      "]]>",
      '<g onmouseover="x">',
      "<iframe>",
      "<p>",
      "<math>",
      "<title>",
      "&lt;script&gt;",
      "&",
      "x",
      '<path d="M0 0"/>',
      "<foreignObject>",
      "</foreignObject>",
      "<desc>",
      "<?xml ?>",
      "</ script>",
      "<text\n>",
      '<g\nid="a">',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string()), { maxLength: 30 }), (pieces) => {
        const svg = pieces.join("");
        expect(acting(svg)).toEqual([]);
        expect(clean(clean(svg))).toBe(clean(svg));
      }),
      { numRuns: 1000 },
    );
  });
});
