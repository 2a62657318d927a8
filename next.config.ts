import path from 'node:path';
import type { NextConfig } from 'next';

const root = path.resolve(import.meta.dirname);

const config: NextConfig = {
  serverExternalPackages: ['pg', 'pino', 'piscina', '@lhncbc/ucum-lhc', 'exceljs', 'z3-solver', 'elkjs', 'koffi'],
  turbopack: { root },
  outputFileTracingRoot: root,
  poweredByHeader: false,
  // Each route says how much it takes; this is only what lies above all of them, so that nothing is cut short before.
  experimental: { proxyClientMaxBodySize: '32mb' },
  reactStrictMode: true,
  // Types are checked once, in the lint step.
  typescript: { ignoreBuildErrors: true },
  // A browser asks for this address by itself when a page is slow to name its icon; an answer "not found" is a fault on its console.
  async rewrites() {
    return [{ source: '/favicon.ico', destination: '/icon.svg' }];
  },
  async headers() {
    // The engine's worker is the only response that may evaluate code; a worker takes the policy of its own response.
    return [
      {
        source: '/engine/:file*',
        headers: [
          { key: 'content-security-policy', value: "default-src 'none'; script-src 'self' 'unsafe-eval'" },
          { key: 'cache-control', value: 'no-cache' },
        ],
      },
    ];
  },
};

export default config;
