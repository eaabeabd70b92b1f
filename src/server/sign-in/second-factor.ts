import QRCode from "qrcode";
import * as yup from "yup";
import { type Said, said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";
import { badInput, Problem } from "../base/problems";
import { note } from "../base/record";
import { accounts } from "./accounts";
import { confirmPassword } from "./confirm-password";
import { tellChanged } from "./security-mail";
import { boundSession, type SignInSource, signedIn } from "./sign-in";
import { countTry, forgiveTry, networkOf, ownPace } from "./try-pace";

const CODE = /^\d{6}$/;
const codeForm = yup.object({
  code: yup
    .string()
    .transform((code: unknown) => (typeof code === "string" ? code.replace(/\s+/g, "") : code))
    .max(40)
    .required(said("server.sign-in.second-factor.write-the-code-six-digits-or")),
});

const wrongCode = () =>
  new Problem(401, "wrong-code", t("server.sign-in.second-factor.the-code-is-not-right-or"));

/** What the sign-in library says to a code: of the six digits of now, or a recovery code, which is used up by that. */
async function look(code: string, headers: Headers): Promise<Response> {
  const { api } = accounts();
  const answer = CODE.test(code)
    ? await api.verifyTOTP({ body: { code }, headers, asResponse: true })
    : await api.verifyBackupCode({ body: { code }, headers, asResponse: true });
  if (answer.status >= 500) throw new Error(`The sign-in library answered ${answer.status}.`);
  return answer;
}

/** The second step of signing in: with the code that was asked for. Returns the cookies to set. */
export async function signInWithCode(
  input: unknown,
  { address, headers }: SignInSource,
  isShared: boolean,
): Promise<readonly string[]> {
  const { code } = inputOf(codeForm, input, "address");
  const paces = [{ who: `code ${networkOf(address)}`, atOnce: 12, every: 10_000 }] as const;
  await countTry(paces);
  const answer = await look(code, headers);
  const outcome = (await answer.clone().json()) as { code?: string };
  if (outcome.code === "INVALID_TWO_FACTOR_COOKIE" || outcome.code?.startsWith("TOO_MANY"))
    throw new Problem(410, "sign-in-anew", t("server.sign-in.second-factor.this-took-too-long-or-too"));
  if (!answer.ok) throw wrongCode();
  await forgiveTry(paces);
  return signedIn(answer.headers.getSetCookie(), headers, isShared);
}

/** What a person needs to set the second factor up; shown once. */
export interface SecondFactorSetUp {
  /** The address that an authenticator reads (otpauth:), and the same as a picture in SVG. */
  readonly address: string;
  readonly picture: string;
  /** The secret in the address, to type by hand. */
  readonly secret: string;
  /** Each signs in once, without the device. */
  readonly recoveryCodes: readonly string[];
}

/** Begins to set the second factor up; it counts only once its first code is given. */
export async function beginSecondFactor(
  viewer: Viewer,
  password: string,
  headers: Headers,
): Promise<SecondFactorSetUp> {
  await confirmPassword(viewer, password);
  const answer = await accounts().api.enableTwoFactor({ body: { password }, headers, asResponse: true });
  if (!answer.ok) throw badInput(t("server.sign-in.second-factor.the-second-factor-is-set-up"));
  const { totpURI, backupCodes } = (await answer.json()) as { totpURI: string; backupCodes: string[] };
  return {
    address: totpURI,
    picture: await QRCode.toString(totpURI, { type: "svg", margin: 2 }),
    secret: new URL(totpURI).searchParams.get("secret") ?? "",
    recoveryCodes: backupCodes,
  };
}

/** The first code: from now on signing in asks for one. Returns the cookies to set. */
export async function confirmSecondFactor(
  viewer: Viewer,
  input: unknown,
  headers: Headers,
): Promise<readonly string[]> {
  const { code } = inputOf(codeForm, input, "address");
  if (!CODE.test(code)) throw badInput(t("server.sign-in.second-factor.write-the-six-digits-that-your"));
  await countTry(ownPace(viewer.id));
  const answer = await look(code, headers);
  if (!answer.ok) throw badInput(wrongCode().sentence);
  await forgiveTry(ownPace(viewer.id));
  await changed(
    viewer,
    "set up the second factor",
    said("server.sign-in.second-factor.a-second-factor-was-set-up"),
  );
  return begun(answer);
}

/** Takes the second factor away again. Returns the cookies to set. */
export async function endSecondFactor(
  viewer: Viewer,
  password: string,
  headers: Headers,
): Promise<readonly string[]> {
  await confirmPassword(viewer, password);
  const answer = await accounts().api.disableTwoFactor({ body: { password }, headers, asResponse: true });
  if (!answer.ok) throw badInput(t("server.sign-in.second-factor.the-second-factor-could-not-be"));
  await changed(
    viewer,
    "took the second factor away",
    said("server.sign-in.second-factor.the-second-factor-of-your-account"),
  );
  return begun(answer);
}

const changed = (viewer: Viewer, action: string, sentence: Said) =>
  inTransaction(async (tx) => {
    await note(tx, { actorId: viewer.id, action, subject: "person", subjectId: viewer.id, details: {} });
    await tellChanged(tx, viewer.id, sentence);
  });

/** The cookies of an answer in which the library began another session in the place of the old one. */
async function begun(answer: Response): Promise<readonly string[]> {
  const cookies = answer.headers.getSetCookie();
  await boundSession(cookies);
  return cookies;
}
