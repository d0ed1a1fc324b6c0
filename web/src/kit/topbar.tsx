/** The bar at the top: where you are, and what this screen does. */
import type { ReactNode } from "react";
import { Button as AriaButton, Menu, MenuItem, MenuTrigger } from "react-aria-components";
import { NavLink, useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { arrived, client, useMe } from "../api/queries";
import { WaitingForMe } from "../look/waiting";
import { initialsOf } from "./initials";
import { Menued } from "./menued";

const Bar = styled.header`
  height: 48px;
  flex: none;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
  .mark {
    display: flex;
    align-items: center;
    gap: 9px;
    font-weight: 640;
    font-size: 15px;
    text-decoration: none;
    margin-right: 8px;
  }
  .mark img {
    width: 20px;
    height: 20px;
  }
  nav {
    display: flex;
    gap: 18px;
    height: 100%;
    margin-right: 6px;
  }
  nav a {
    color: var(--t2);
    text-decoration: none;
    display: grid;
    place-items: center;
    border-bottom: 2px solid transparent;
    border-top: 2px solid transparent;
  }
  nav a.active {
    color: var(--t1);
    font-weight: 560;
    border-bottom-color: var(--accent);
  }
  .who {
    border: 1px solid var(--g4);
    border-radius: 50%;
    width: 28px;
    height: 28px;
    background: none;
    font-size: 11.5px;
    font-weight: 600;
    cursor: pointer;
    flex: none;
  }
  .who[data-hovered] {
    background: var(--g3);
  }
  .space {
    flex: 1;
  }
  @media (max-width: 1100px) {
    gap: 10px;
    nav {
      gap: 14px;
      margin-right: 0;
    }
    .mark {
      margin-right: 0;
    }
    /* The mark beside it says the same. */
    .word {
      position: absolute;
      opacity: 0;
      pointer-events: none;
    }
  }
`;

function Person() {
  const { data: me } = useMe();
  const navigate = useNavigate();
  if (!me) return null;
  const initials = initialsOf(me.name);
  const leave = async () => {
    await got(server.POST("/api/sign-out"));
    client.clear();
    arrived(null);
    window.location.assign("/sign-in");
  };
  return (
    <MenuTrigger>
      <AriaButton className="who" aria-label={`${initials}: ${me.name}, ${me.role}`}>
        {initials}
      </AriaButton>
      <Menued placement="bottom end">
        <header>
          {me.name}
          <br />
          {me.role}
        </header>
        <Menu
          onAction={(key) =>
            key === "leave" ? void leave() : void navigate(key === "bin" ? "/people/bin" : "/people")
          }
          aria-label="Person"
        >
          <MenuItem id="yours">Sessions, tokens, password</MenuItem>
          <MenuItem id="bin">The bin</MenuItem>
          <MenuItem id="leave">Sign out</MenuItem>
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}

export function TopBar(props: { children?: ReactNode }) {
  return (
    <Bar>
      <NavLink to="/catalogue" className="mark">
        <img src="/mark.svg" alt="" />
        <span className="word">Saucer</span>
      </NavLink>
      <nav aria-label="Places">
        <NavLink to="/bench">Bench</NavLink>
        <NavLink to="/catalogue">Catalogue</NavLink>
        <NavLink to="/projects">Projects</NavLink>
        <NavLink to="/frames">Frames</NavLink>
      </nav>
      {props.children ?? <span className="space" />}
      <nav aria-label="Team">
        <NavLink to="/people">People</NavLink>
      </nav>
      <WaitingForMe />
      <Person />
    </Bar>
  );
}

export const Page = styled.div`
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--g0);
  > main {
    flex: 1;
    min-height: 0;
    overflow: auto;
  }
`;
