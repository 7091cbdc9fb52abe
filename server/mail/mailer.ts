/** Mail out, over SMTP (RFC 5321): a few connections to a service, each message over one of them. */
import { type DomainWatch, watchDomains } from "#core/delivery/domains.ts";
import { LIMITS } from "#core/limits.ts";
import { Connection, type HandOver, readService, STANDARD_WAITS } from "./connection.ts";
import type { MailKeys } from "./keys.ts";
import { type Finished, finish, type Message } from "./message.ts";

export interface Mailer {
  /**
   * Hands a message over. `ready` runs when the service waits for the content, before any of it goes: from then
   * on a crash leaves it unknown whether it came. `begin` runs when there is a place on the line. What they throw is thrown on, and
   * nothing has gone.
   */
  send(message: Message, ready?: () => Promise<void>, begin?: () => void): Promise<HandOver>;
  /** How quickly messages go to each domain. */
  readonly domains: DomainWatch;
  /** Which of some messages the service has, by their Message-IDs; null where it cannot be asked. */
  readonly has: ((messageIds: readonly string[]) => Promise<ReadonlySet<string>>) | null;
  /** Ends connections; what is on the line is cut off. */
  close(): void;
}

/** How long a connection waits for another message, ms. */
const IDLE_MS = 5_000;

/** `keys` sign what goes; `address` is the service's; `has` asks it what it has, where it can be asked. */
export function createMailer(
  address: string,
  keys: MailKeys,
  waits = STANDARD_WAITS,
  has: Mailer["has"] = null,
): Mailer {
  const service = readService(address);
  const idle = new Map<Connection, NodeJS.Timeout>();
  const busy = new Set<Connection>();
  const waiting: (() => void)[] = [];
  let lines = 0;
  let closed = false;

  /** A place on the line, of as many as there may be. */
  async function place(): Promise<void> {
    if (lines < LIMITS.sendParallel) lines++;
    else await new Promise<void>((ok) => waiting.push(ok));
  }
  const leave = () => {
    const next = waiting.shift();
    if (next) next();
    else lines--;
  };

  function takeIdle(): Connection | null {
    for (const [connection, timer] of idle) {
      clearTimeout(timer);
      idle.delete(connection);
      if (connection.open) return connection;
    }
    return null;
  }
  function keep(connection: Connection): void {
    if (!connection.open) return;
    if (closed) {
      connection.quit();
      return;
    }
    const timer = setTimeout(() => {
      idle.delete(connection);
      connection.quit();
    }, IDLE_MS);
    idle.set(connection, timer.unref());
  }

  async function over(connection: Connection, message: Finished, ready?: () => Promise<void>) {
    busy.add(connection);
    try {
      return await connection.send(message, ready);
    } finally {
      busy.delete(connection);
      keep(connection);
    }
  }

  return {
    domains: watchDomains(),
    has,
    async send(message, ready, begin) {
      const finished = await finish(message, keys);
      await place();
      try {
        begin?.();
        const old = takeIdle();
        if (old) {
          const carried = old.taken > 0;
          const answer = await over(old, finished, ready);
          const ended = answer.state === "refused" && answer.verdict.kind === "connection";
          // Services end a connection after a while, or after so many messages: that says nothing about the next one.
          if (!ended || !carried || closed) return answer;
        }
        const opened = await Connection.open(service, waits);
        return opened instanceof Connection ? await over(opened, finished, ready) : opened;
      } finally {
        leave();
      }
    },
    close() {
      closed = true;
      for (const [connection, timer] of idle) {
        clearTimeout(timer);
        connection.quit();
      }
      idle.clear();
      for (const connection of busy) connection.close();
    },
  };
}
