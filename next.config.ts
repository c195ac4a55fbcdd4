import type { NextConfig } from "next";

const immutable = [{ key: "Cache-Control", value: "public, max-age=31536000, immutable" }];

const config: NextConfig = {
  agentRules: false,
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ["better-sqlite3", "verovio"],
  turbopack: { root: import.meta.dirname },
  experimental: { serverActions: { bodySizeLimit: "12mb" } },
  headers: async () => [
    { source: "/vendor/:path*", headers: immutable },
    { source: "/sound/:path*", headers: [{ key: "Cache-Control", value: "public, max-age=86400" }] },
    {
      source: "/:path*",
      headers: [
        { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
        { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
        { key: "X-Content-Type-Options", value: "nosniff" },
        { key: "Referrer-Policy", value: "no-referrer" },
      ],
    },
  ],
};

export default config;
