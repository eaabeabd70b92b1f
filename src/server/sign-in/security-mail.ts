import { type Said, said } from "@/core/said";
import { dayAndTime } from "@/core/time/said-times";
import { database, type Queryable } from "@/data/database";
import { now } from "../base/clock";
import { config } from "../base/config";
import { notify } from "../notices/notify";
import { deviceWords } from "./device-words";

const NOT_YOU = said("server.sign-in.security-mail.if-that-was-not-you-change");

const moment = () => dayAndTime(now(), config.zone);

/** Tells someone by mail that they have signed in from a browser that was not used before. */
export const tellNewDevice = (personId: string, headers: Headers): Promise<void> =>
  notify(database(), [
    {
      personId,
      kind: "new-device",
      text: said("server.sign-in.security-mail.somebody-signed-in-with-your-account", {
        device: deviceWords(headers.get("user-agent")),
        when: moment(),
        notYou: NOT_YOU,
      }),
      path: "/profile#sessions",
    },
  ]);

/** Tells someone by mail what was changed about how they sign in: "Your password was changed". */
export const tellChanged = (db: Queryable, personId: string, what: Said): Promise<void> =>
  notify(db, [
    {
      personId,
      kind: "sign-in-changed",
      text: said("server.sign-in.security-mail.changed", { what, when: moment(), notYou: NOT_YOU }),
      path: "/profile#password",
    },
  ]);
