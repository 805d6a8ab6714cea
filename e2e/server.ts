/** The real binary over a real PostgreSQL, with the demo loaded; one for each worker. */
import { execFileSync, spawn } from "node:child_process";
import type { ChildProcess } from "node:child_process";
import { randomBytes } from "node:crypto";
import { createServer } from "node:net";
import { fileURLToPath } from "node:url";

const standinsBinary = fileURLToPath(new URL("../target/debug/lumbo-standins", import.meta.url));
const binary = fileURLToPath(new URL("../target/debug/lumbo", import.meta.url));

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });
}

export class Server {
  readonly url: string;
  private readonly database: string;
  private child: ChildProcess | null = null;
  private outside: ChildProcess | null = null;
  /** Where the stand-ins for outside services are. */
  readonly standins: string;

  private readonly smtp: string;

  private constructor(port: number, database: string, standinsPort: number, smtpPort: number) {
    this.smtp = `127.0.0.1:${smtpPort}`;
    this.standins = `http://127.0.0.1:${standinsPort}`;
    this.url = `http://127.0.0.1:${port}`;
    this.database = database;
  }

  static async start(): Promise<Server> {
    const base = process.env.LUMBO_TEST_DATABASE_SERVER;
    if (!base) throw new Error("set LUMBO_TEST_DATABASE_SERVER to a PostgreSQL server, or run ./test, which does");
    const name = `e2e_${randomBytes(6).toString("hex")}`;
    execFileSync("psql", ["-Xq", `${base}/postgres`, "-c", `create database ${name}`]);
    const server = new Server(await freePort(), `${base}/${name}`, await freePort(), await freePort());
    execFileSync(binary, ["demo"], { env: { ...process.env, DATABASE_URL: server.database } });
    // Tests run at any hour: whoever is called in one must not be asleep.
    execFileSync("psql", ["-Xq", server.database, "-c", "update workspaces set calls_from = 0, calls_until = 24"]);
    server.outside = spawn(standinsBinary, ["--listen", server.standins.replace("http://", ""), "--lumbo", server.url, "--smtp", server.smtp], { stdio: "ignore" });
    await server.run();
    return server;
  }

  async run(): Promise<void> {
    const options = ["--listen", this.url.replace("http://", ""), "--prospect-requests-per-minute", "100000", "--starts-per-hour", "1000000", "--filings-per-hour", "1000000", "--sign-ins-per-minute", "10000", "--allow-private", this.standins.replace("http://", ""), "--site", this.url, "--smtp", `smtp://${this.smtp}`, "--mail-from", "Lumbo <lumbo@winterlode.example>", "--sign-in-issuer", `${this.standins}/id`, "--sign-in-client", "lumbo", "--sign-in-secret", "stand-in client secret", "--sign-in-name", "Winterlode ID"];
    this.child = spawn(binary, ["serve", ...options], { env: { ...process.env, DATABASE_URL: this.database, RUST_LOG: "warn", LUMBO_SECRET_KEY: "07".repeat(32) }, stdio: "ignore" });
    for (let tries = 0; ; tries += 1) {
      const ready = await fetch(`${this.url}/readyz`).then(
        (answer) => answer.ok,
        () => false,
      );
      if (ready) return;
      if (tries > 100) throw new Error("the server did not become ready");
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }

  /** Ends it with a signal, and waits until it is gone. */
  async end(signal: "SIGKILL" | "SIGTERM" = "SIGTERM"): Promise<void> {
    if (signal === "SIGTERM") this.outside?.kill();
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await gone;
  }

  /** One value from the database. */
  ask(sql: string): string {
    return execFileSync("psql", ["-XAtq", this.database, "-c", sql]).toString().trim();
  }
}
