import type { Response } from 'express';
import helmet from 'helmet';

/** What a form's page may do: run our script, and be sent to us. */
export const secured = helmet({
  contentSecurityPolicy: {
    directives: {
      defaultSrc: ["'none'"],
      styleSrc: ["'self'"],
      scriptSrc: ["'self'"],
      fontSrc: ["'self'"],
      imgSrc: ["'self'", 'data:'],
      connectSrc: ["'self'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
      upgradeInsecureRequests: null,
    },
  },
  referrerPolicy: { policy: 'same-origin' },
  xFrameOptions: false,
});

/** Only pages that the intake names may show the form in a frame of theirs. */
export function mayBeFramed(response: Response, allowedOrigins: readonly string[] = []): void {
  if (allowedOrigins.length === 0) return;
  const policy = String(response.getHeader('Content-Security-Policy'));
  response.setHeader(
    'Content-Security-Policy',
    policy.replace("frame-ancestors 'none'", `frame-ancestors 'self' ${allowedOrigins.join(' ')}`),
  );
}
