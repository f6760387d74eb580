import type { NextConfig } from 'next';

const nextConfig: NextConfig = {
  output: 'standalone',
  typedRoutes: true,
  reactStrictMode: true,
  poweredByHeader: false,
  agentRules: false,
  serverExternalPackages: ['@electric-sql/pglite', 'pdfmake', 'exceljs'],
  // A whole farm comes in as one file.
  experimental: { serverActions: { bodySizeLimit: '21mb' } },
  outputFileTracingIncludes: {
    '/*': ['./drizzle/**/*', './node_modules/@fontsource/**/files/*-latin-{400,700}-normal.woff'],
  },
  // `npm test` runs the faster compiler over the same files first (script "types").
  typescript: { ignoreBuildErrors: true },
};

export default nextConfig;
