export { scoreInContainer } from "./container";
export { readMusicXml, type ReadXml, type XmlPart } from "./read";
export { sheetMusicXml } from "./write";
