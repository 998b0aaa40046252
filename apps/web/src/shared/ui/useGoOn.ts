// Going on to a page once what was asked for is done, without fetching back whoever has gone elsewhere meanwhile.

import { UNSAFE_DataRouterContext as DataRouterContext, useLocation, useNavigate } from "react-router";
import { useCallback, useContext, useEffect, useRef } from "react";

/**
 * Goes on only for somebody who is still on the page that asked. The router itself is asked, not what React last drew: under load a page
 * stays drawn a while after its tester has left it, and React Router gives its state only to pages that were drawn since.
 */
export function useGoOn(): (to: string) => Promise<void> {
  const navigate = useNavigate();
  const router = useContext(DataRouterContext)?.router;
  const { pathname } = useLocation();
  const drawn = useRef(true);
  useEffect(() => {
    drawn.current = true;
    return () => {
      drawn.current = false;
    };
  }, []);
  return useCallback(
    async (to) => {
      const now = router?.state;
      const stillHere = now === undefined || (now.navigation.state === "idle" && now.location.pathname === pathname);
      if (drawn.current && stillHere) await navigate(to);
    },
    [navigate, router, pathname],
  );
}
