const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' };

/** Text safe between tags; what XML 1.0 does not allow is left out: controls, lone halves of pairs, U+FFFE and U+FFFF. */
export function escapeXml(text: string): string {
  return text.replace(NOT_XML, '').replace(/[&<>"']/g, (c) => ENTITIES[c]!);
}

const NOT_XML = /[^\t\n\r\u{20}-\u{D7FF}\u{E000}-\u{FFFD}\u{10000}-\u{10FFFF}]/gu;
