import { strFromU8, type UnzipFileInfo, unzipSync } from "fflate";
import { FormatError } from "../problem";
import { decodeText } from "../text";
import { all, child, readDocument } from "./document";

const START = { line: 1, column: 1 };
/** Largest file taken out of a container, and how many times smaller than its contents a container may claim to be. */
const LARGEST = 8_000_000;
const TIGHTEST = 200;
/** Most files inside: a score, its list, and pictures of its pages. */
const MOST_FILES = 1000;
/** The list of what is inside. */
const LIST = "META-INF/container.xml";
const LARGEST_LIST = 100_000;

/**
 * The score inside a compressed MusicXML file (.mxl). Refuses containers that unfold to more than a score could hold.
 */
export function scoreInContainer(bytes: Uint8Array): string {
  const open = (wanted: (name: string) => boolean, largest = LARGEST) => {
    let claimed = 0;
    let entries = 0;
    const filter = ({ name, originalSize, size }: UnzipFileInfo) => {
      // A container may claim any number of files; each would be looked for.
      entries += 1;
      if (entries > MOST_FILES)
        throw new FormatError("This container claims far more files than a score has. Save it again.", START);
      if (!wanted(name)) return false;
      claimed += originalSize;
      if (claimed > largest || (originalSize > 1_000_000 && originalSize > size * TIGHTEST)) {
        throw new FormatError(
          "This container unfolds to far more than a score holds, so it was not opened. " +
            "Save the score as plain .musicxml.",
          START,
        );
      }
      return true;
    };
    try {
      return unzipSync(bytes, { filter });
    } catch (error) {
      if (error instanceof FormatError) throw error;
      const why = error instanceof Error ? error.message : "broken file";
      throw new FormatError(`This is not a sound compressed score (${why}). Save it again.`, START);
    }
  };
  const meta = open((name) => name === LIST, LARGEST_LIST)[LIST];
  const listed = meta
    ? all(child(readDocument(strFromU8(meta)), "rootfiles"), "rootfile").map((r) => r.attributes["full-path"] ?? "")
    : [];
  const root = listed.find((path) => /\.(musicxml|xml)$/i.test(path));
  const files = open((name) =>
    root ? name === root : /\.(musicxml|xml)$/i.test(name) && !name.startsWith("META-INF/"),
  );
  const score = root ? files[root] : Object.values(files)[0];
  if (!score) throw new FormatError("There is no score in this container.", START);
  return decodeText(score);
}
