/** What a device needs to put the Stand among its programs (W3C Web Application Manifest). */
export function GET(): Response {
  const manifest = {
    name: 'Omaggio Stand',
    short_name: 'Stand',
    id: '/stand',
    start_url: '/stand',
    scope: '/stand',
    display: 'standalone',
    background_color: '#fffdf7',
    theme_color: '#fffdf7',
    icons: [{ src: '/stand/icon', type: 'image/svg+xml', sizes: 'any', purpose: 'any' }],
  };
  return Response.json(manifest, { headers: { 'content-type': 'application/manifest+json' } });
}
