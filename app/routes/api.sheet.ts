/**
 * The empty page in a sheet's frame. The email is written into it by the application; its policy is its
 * own, so that nothing in an email can run or fetch more than pictures.
 */
import { sheetPolicy } from "#server/http/policies.ts";

export const loader = () =>
  new Response(
    "<!doctype html><html lang='en'><head><title>Sheet</title></head><body></body></html>",
    {
      headers: {
        "Content-Type": "text/html; charset=utf-8",
        "Content-Security-Policy": sheetPolicy,
        // A wall has many frames: the page is the same in all of them.
        "Cache-Control": "private, max-age=3600",
      },
    },
  );
