import Link from 'next/link';
import { ClaimChecker } from '@/ui/ground/ClaimChecker';

export const metadata = { title: 'Claim checker' };

export default function ClaimsPage() {
  return (
    <>
      <p>
        <Link href="/calculators">Calculators</Link>
      </p>
      <h1 className="mb-2">Claim checker</h1>
      <ClaimChecker need={null} kept={[]} keep={null} drop={null} />
    </>
  );
}
