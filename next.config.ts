import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['piscina', 'verovio', 'pg', 'node-pg-migrate', 'tsx', 'pdfkit', 'svg-to-pdfkit', 'wawoff2'],
  poweredByHeader: false,
  // The Desk draws much and changes often: what did not change is not made anew.
  reactCompiler: true,
  // bin/test checks the types of the whole project; a build need not do it again.
  typescript: { ignoreBuildErrors: true },
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};

export default config;
