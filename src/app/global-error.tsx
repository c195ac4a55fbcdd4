"use client";

/** When even the frame of the pages could not be shown: plain text, without fonts or themes that may be what failed. */
export default function GlobalError({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <html lang="en-GB">
      <body style={{ fontFamily: "sans-serif", maxWidth: 560, margin: "20vh auto", padding: 24 }}>
        <h1 style={{ fontSize: 26 }}>The application could not be shown</h1>
        <p>
          {error.message || "Something went wrong on the way."} What was saved is safe, and what was not is kept in this
          browser.
        </p>
        <p>Try again. If this comes back, stop the application and start it once more.</p>
        <button type="button" onClick={reset}>
          Try again
        </button>
      </body>
    </html>
  );
}
