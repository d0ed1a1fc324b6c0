/** Contact sheets: all of them, a new one, or one with its votes. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Button } from "../kit/button";
import { Empty } from "../kit/empty";
import { Grow, Quiet } from "../kit/layout";
import { Page, TopBar } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { longAgo } from "../kit/when";
import { askedOfSheets } from "./asked";
import { NewSheet } from "./newsheet";
import { Voting } from "./voting";

export default function SheetPage() {
  const { id } = useParams();
  if (id === "new") return <NewSheet />;
  const number = Number(id);
  return Number.isInteger(number) && number > 0 ? <One id={number} /> : <All />;
}

function One({ id }: { id: number }) {
  const query = useQuery(askedOfSheets.one(id));
  useEffect(() => {
    document.title = `${query.data?.name ?? "Contact sheet"} · Saucer`;
  }, [query.data?.name]);
  if (query.data) return <Voting sheet={query.data} />;
  return (
    <Page>
      <TopBar />
      <main>
        <Waiting query={query} what="contact sheet" />
      </main>
    </Page>
  );
}

const Listed = styled.main`
  padding: 18px 24px;
`;
const List = styled.ul`
  list-style: none;
  padding: 0;
  margin-top: 14px;
  max-width: 820px;
  li {
    display: flex;
    gap: 14px;
    padding: 9px 0;
    border-top: 1px solid var(--line);
    align-items: baseline;
  }
  a {
    font-weight: 600;
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
`;

function All() {
  const query = useQuery(askedOfSheets.all);
  const navigate = useNavigate();
  useEffect(() => {
    document.title = "Contact sheets · Saucer";
  }, []);
  return (
    <Page>
      <TopBar>
        <Grow />
        <Button look="main" onPress={() => void navigate("/catalogue/sheet/new")}>
          New sheet
        </Button>
      </TopBar>
      <Listed>
        <h1>Contact sheets</h1>
        {!query.data ? (
          <Waiting query={query} what="contact sheets" />
        ) : query.data.length ? (
          <List>
            {query.data.map((s) => (
              <li key={s.id}>
                <Link to={`/catalogue/sheet/${s.id}`}>{s.name}</Link>
                <Quiet>{s.closed_at ? "closed" : s.blind ? "blind, open" : "open"}</Quiet>
                <Grow />
                <Quiet>
                  {s.people} {s.people === 1 ? "person" : "people"} marked · {s.made_by},{" "}
                  {longAgo(Date.parse(s.made_at), Date.now())}
                </Quiet>
              </li>
            ))}
          </List>
        ) : (
          <Empty title="No contact sheet yet">
            A sheet shows looks by frames, so that several people can choose.
          </Empty>
        )}
      </Listed>
    </Page>
  );
}
