// Puts the demo tunes into an empty collection.
import { database, databasePath } from "../src/db";
import { seedDemo } from "../src/server/demo";

const added = seedDemo(database());
console.log(
  added
    ? `${added} demo tunes are in ${databasePath()}.`
    : `The collection ${databasePath()} already holds tunes and stays as it is.`,
);
