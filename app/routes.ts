/** Every address of the application. Those open without a session are listed in public.ts. */
import { index, layout, type RouteConfig, route } from "@react-router/dev/routes";

export default [
  layout("routes/studio.tsx", [
    index("routes/desk.tsx"),
    route("campaigns", "routes/campaigns.tsx"),
    route("campaigns/new", "routes/campaigns.new.tsx"),
    route("templates", "routes/templates.tsx"),
    route("people", "routes/people.tsx", [
      index("routes/people.contacts.tsx"),
      route("contacts/:contact", "routes/people.contact.tsx"),
      route("segments", "routes/people.segments.tsx"),
      route("segments/:segment", "routes/people.segment.tsx"),
      route("lists", "routes/people.lists.tsx"),
    ]),
    route("library", "routes/library.tsx"),
    route("results", "routes/results.tsx"),
    route("outbox", "routes/outbox.tsx"),
    route("outbox/:message", "routes/outbox.message.tsx"),
    route("settings", "routes/settings.tsx"),
  ]),
  route("campaigns/:campaign", "routes/campaign.tsx", [
    index("routes/campaign.compose.tsx"),
    route("readers", "routes/campaign.readers.tsx"),
    route("proof", "routes/campaign.proof.tsx"),
    route("schedule", "routes/campaign.schedule.tsx"),
    route("results", "routes/campaign.results.tsx"),
  ]),
  // What the screens fetch.
  route("campaigns/:campaign/edits", "routes/api.edits.ts"),
  route("campaigns/:campaign/follow", "routes/api.follow.ts"),
  route("campaigns/:campaign/history", "routes/api.history.ts"),
  route("campaigns/:campaign/addresses", "routes/api.addresses.ts"),
  route("campaigns/:campaign/writing", "routes/api.writing.ts"),
  route("campaigns/:campaign/presence", "routes/api.presence.ts"),
  route("campaigns/:campaign/email.liquid", "routes/api.liquid.ts"),
  route("people/rows", "routes/api.rows.ts"),
  route("people/contacts/:contact/values", "routes/api.contact-values.ts"),
  route("people/reach", "routes/api.reach.ts"),
  route("contacts/find", "routes/api.contacts.ts"),
  route("library/pictures", "routes/api.pictures.ts"),
  route("outbox/:message/html", "routes/api.outbox-html.ts"),
  route("outbox/:message/message.eml", "routes/api.outbox-source.ts"),
  route("sheet", "routes/api.sheet.ts"),
  route("made/:recipe/:file", "routes/api.made.ts"),
  // For developers, where the setting asks for it.
  route("gallery", "routes/gallery.tsx"),
  route("gallery/:name", "routes/gallery.sample.ts"),
  // Signing in and out.
  route("sign-in", "routes/sign-in.tsx"),
  route("sign-in/:token", "routes/sign-in.token.ts"),
  route("sign-out", "routes/sign-out.ts"),
  // For readers of emails.
  route("o/:token", "routes/reader.open.ts"),
  route("c/:token/:link", "routes/reader.click.ts"),
  route("u/:token", "routes/reader.unsubscribe.tsx"),
  route("w/:token", "routes/reader.web.ts"),
  route("s/:token", "routes/reader.shared.ts"),
  route("*", "routes/missing.tsx"),
] satisfies RouteConfig;
