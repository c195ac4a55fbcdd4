export { performanceMidi } from "./write";
