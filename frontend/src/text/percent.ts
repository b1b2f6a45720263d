/** Percent-encoding as browsers read it: what is not an encoding stays as it is (URL standard, 1.3). */

export function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text.replace(/(?:%[0-9a-f]{2})+/gi, (run) => {
      try {
        return decodeURIComponent(run);
      } catch {
        return run;
      }
    });
  }
}
