export { sheetMusicXml } from "./write";
