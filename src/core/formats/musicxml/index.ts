export { scoreInContainer } from "./container";
export { readMusicXml, type XmlPart } from "./read";
export { sheetMusicXml } from "./write";
