declare module "verovio/esm" {
  export class VerovioToolkit {
    constructor(module: unknown);
    setOptions(options: Record<string, unknown>): void;
    loadData(data: string): number;
    renderToSVG(page: number): string;
    getPageCount(): number;
    getLog(): string;
    getVersion(): string;
  }
}
declare module "verovio/wasm" {
  const create: () => Promise<unknown>;
  export default create;
}
