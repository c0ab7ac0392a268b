/** A music stand with a sheet on it. */
const ICON = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 512 512"><rect width="512" height="512" rx="96" fill="#f8f2e7"/><g fill="none" stroke="#1d6250" stroke-width="22" stroke-linecap="round" stroke-linejoin="round"><path d="M120 118h272l-24 178H144z" fill="#fffdf7"/><path d="M256 296v112M176 430l80-40 80 40"/><path d="M182 178h148M178 222h156" stroke="#8a4513" stroke-width="14"/></g></svg>`;

export function GET(): Response {
  return new Response(ICON, { headers: { 'content-type': 'image/svg+xml', 'cache-control': 'public, max-age=86400' } });
}
