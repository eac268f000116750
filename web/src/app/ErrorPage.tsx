import { isRouteErrorResponse, Link, useRouteError } from 'react-router';

/** Shown instead of a blank screen, with a way on. */
export function ErrorPage() {
  const error = useRouteError();
  const text = isRouteErrorResponse(error) ? `There is nothing at this address (${error.status}).` : error instanceof Error ? error.message : 'There is nothing at this address.';
  return (
    <div className="page-empty" role="alert">
      <h1>This page could not be shown</h1>
      <p>{text}</p>
      <p>Nothing was lost: what you entered is kept in the project.</p>
      <p>
        <Link className="link-button" to="/projects">
          Go to the projects
        </Link>
      </p>
    </div>
  );
}
