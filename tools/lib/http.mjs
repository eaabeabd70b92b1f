import { request } from "node:http";

/** One request of a page of ours; returns its status, headers and text. */
export function call({ agent, url, method, path, cookie = "", body, type = "application/json" }) {
  return new Promise((done, failed) => {
    const headers = { cookie, origin: url, "content-type": type };
    const sent = request(url + path, { method, agent, headers }, (response) => {
      let text = "";
      response.setEncoding("utf8");
      response.on("data", (piece) => {
        text += piece;
      });
      response.on("end", () => done({ status: response.statusCode, headers: response.headers, text }));
    });
    sent.on("error", failed);
    sent.end(body);
  });
}

/** The cookies that an answer sets, as the next request sends them. */
export const cookiesOf = ({ headers }) => headers["set-cookie"].map((each) => each.split(";")[0]).join("; ");
