/** The verifier of signatures that tests ask, as far as they ask it. */
declare module "mailauth/lib/dkim/verify.js" {
  export function dkimVerify(
    message: Buffer,
    options: { resolver(name: string, type: string): Promise<string[][]> },
  ): Promise<{ results: { status: { result: string } }[] }>;
}
