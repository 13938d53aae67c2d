const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', '#39': "'", nbsp: ' ' };

/** A rich description as plain words in one line, for mails, search engines and lists. */
export function descriptionText(html: string): string {
  return (
    html
      // What is listed line by line needs an end once it stands in one.
      .replace(/([^\s.!?:;,…>])((?:<\/(?!li)[^>]*>)*)\s*<\/li>/g, '$1.$2</li>')
      .replace(/<(br|\/p|\/li|\/h[1-6])\s*\/?>/g, ' ')
      .replace(/<[^>]*>/g, '')
      .replace(/&(#39|[a-z]+);/g, (whole, name: string) => ENTITIES[name] ?? whole)
      .replace(/\s+/g, ' ')
      .trim()
  );
}
