import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['piscina', 'verovio', 'pg', 'node-pg-migrate', 'tsx'],
  poweredByHeader: false,
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};

export default config;
