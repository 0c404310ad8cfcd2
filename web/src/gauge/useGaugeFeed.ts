import { t as tr } from '@lingui/core/macro';
import { useEffect, useRef, useState } from 'react';

export interface Fed {
  typed: string;
  /** The gauge that sent it, by name and address. */
  from: string;
  n: number;
}

export interface Feed {
  /** Latest figure of the gauge, numbered so that two alike are told apart. */
  fed: Fed | null;
  /** What the gauge or its line last said in words. */
  says: { kind: string; words: string } | null;
  state: 'off' | 'connecting' | 'listening' | 'gone';
}

type News = { kind: string; typed: string; words: string; from: string };

/** Listens to the shop's gauge through the server. What is typed by hand goes on meanwhile. */
export function useGaugeFeed(on: boolean): Feed {
  const [feed, setFeed] = useState<Feed>({ fed: null, says: null, state: 'off' });
  const n = useRef(0);
  useEffect(() => {
    if (!on) {
      setFeed({ fed: null, says: null, state: 'off' });
      return;
    }
    setFeed({ fed: null, says: null, state: 'connecting' });
    const source = new EventSource('/api/gauge/stream');
    source.onmessage = (event: MessageEvent<string>) => {
      const news = JSON.parse(event.data) as News;
      setFeed((f) => ({
        state: news.kind === 'gone' ? 'gone' : 'listening',
        says: news.words ? { kind: news.kind, words: news.words } : news.kind === 'reading' ? null : f.says,
        fed: news.kind === 'reading' ? { typed: news.typed, from: news.from, n: ++n.current } : f.fed,
      }));
    };
    source.onerror = () =>
      setFeed((f) => ({
        ...f,
        state: 'gone',
        says: {
          kind: 'trouble',
          words: tr`The line to the gauge broke. It is tried again by itself; type meanwhile.`,
        },
      }));
    return () => source.close();
  }, [on]);
  return feed;
}
