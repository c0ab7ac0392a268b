/** This browser names itself, so that the server can share its work out fairly between browsers; it says nothing about the person. */
export function newClientName(): void {
  if (/(?:^|;\s*)client=[\w-]{8,}/.test(document.cookie)) return;
  document.cookie = `client=${crypto.randomUUID()}; path=/; max-age=31536000; samesite=lax`;
}
