// Going on to a page once what was asked for is done, without fetching back whoever has gone elsewhere meanwhile.

import { useCallback, useEffect, useRef } from "react";
import { useNavigate, useNavigation } from "react-router";

/** The page may still be shown while the next one is being loaded: who is on the way counts as gone. */
export function useGoOn(): (to: string) => Promise<void> {
  const navigate = useNavigate();
  const onTheWay = useNavigation().state !== "idle";
  const here = useRef(true);
  useEffect(() => {
    here.current = !onTheWay;
    return () => {
      here.current = false;
    };
  }, [onTheWay]);
  return useCallback(
    async (to) => {
      if (here.current) await navigate(to);
    },
    [navigate],
  );
}
