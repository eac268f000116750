import { useEffect, useState } from 'react';
import { call } from '../project/api';

interface Notice {
  code: string;
  title: string;
  text: string;
}

/** What is to be known of the server's database: set aside, or only to be read. Stands until it is closed. */
export function HealthNotice() {
  const [notices, setNotices] = useState<Notice[]>([]);
  useEffect(() => {
    void call<{ notices: Notice[] }>('GET', '/health').then((r) => r.ok && setNotices(r.value.notices));
  }, []);
  if (notices.length === 0) return null;
  return (
    <div className="health" role="alert">
      {notices.map((n) => (
        <div key={n.code}>
          <b>{n.title}.</b> {n.text}{' '}
          <button type="button" className="link-button" onClick={() => setNotices(notices.filter((x) => x !== n))}>
            Understood
          </button>
        </div>
      ))}
    </div>
  );
}
