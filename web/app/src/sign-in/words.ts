/** Why nobody came in by the sign-in provider, by the name that stands in the address. */
export function notInWords(why: string | null, provider: string | null): string {
  const name = provider ?? "the provider";
  switch (why) {
    case "another-way":
      return "That sign-in was begun in another window or another browser. Begin it again here.";
    case "late":
      return "That took longer than ten minutes. Begin again.";
    case "refused-there":
      return `You did not sign in at ${name}. Begin again, or use your password.`;
    case "not-proved":
      return `${capital(name)} did not prove who you are. Try again in a minute; if it stays so, tell your administrator.`;
    case "not-linked":
      return `Nobody here is linked with that account yet. Sign in with your password once, and link it under Settings, Your account.`;
    case "linked-elsewhere":
      return `Somebody else here is linked with that account. Sign in there as yourself and try again.`;
    default:
      return "";
  }
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
