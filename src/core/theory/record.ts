import { z } from "zod";

/**
 * An object that is stored: its known fields are checked, and unknown ones are kept as they are, since a later version
 * may have written them. Its type has the known fields alone.
 */
export const record = <Shape extends z.core.$ZodLooseShape>(shape: Shape) =>
  z.looseObject(shape) as unknown as z.ZodObject<Shape, z.core.$strip>;
