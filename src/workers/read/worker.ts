import { expose } from "comlink";
import { readFile, type ReadOptions } from "../../core/intake";

const reader = { read: (name: string, bytes: Uint8Array, options: ReadOptions) => readFile(name, bytes, options) };
export type Reader = typeof reader;

expose(reader);
