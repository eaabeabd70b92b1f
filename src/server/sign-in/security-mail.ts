import { dayAndTime } from "@/core/time/words";
import { database, type Queryable } from "@/data/database";
import { now } from "../clock";
import { config } from "../config";
import { tell } from "../notices/tell";
import { deviceWords } from "../profile/device-words";

const NOT_YOU =
  "If that was not you, change your password at once; that ends every other session. Then tell the help desk.";

const moment = () => dayAndTime(now(), config.zone);

/** Tells someone by mail that they have signed in from a browser that was not used before. */
export const tellNewDevice = (personId: string, headers: Headers): Promise<void> =>
  tell(database(), [
    {
      personId,
      kind: "new-device",
      text: `Somebody signed in with your account from a browser that you had not used before: ${deviceWords(headers.get("user-agent"))}, ${moment()}. ${NOT_YOU}`,
      path: "/profile#sessions",
    },
  ]);

/** Tells someone by mail what was changed about how they sign in: "Your password was changed". */
export const tellChanged = (db: Queryable, personId: string, what: string): Promise<void> =>
  tell(db, [
    {
      personId,
      kind: "sign-in-changed",
      text: `${what}, ${moment()}. ${NOT_YOU}`,
      path: "/profile#password",
    },
  ]);
