import { Link } from "@tanstack/react-router";

export function NotHere() {
  return (
    <div className="px-6 py-10">
      <h1 className="text-[30px]">There is nothing at this address</h1>
      <p className="mt-2 text-muted">The link may be old, or mistyped.</p>
      <Link to="/payers" className="link mt-4 inline-block">
        Go to Payers
      </Link>
    </div>
  );
}
