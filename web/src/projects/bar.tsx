/** The top bar of a project's screens: which of them, and what it does. */
import type { ReactNode } from "react";
import { NavLink } from "react-router";
import styled from "styled-components";
import { Grow } from "../kit/layout";
import { TopBar } from "../kit/topbar";

const Places = styled.nav`
  header && {
    display: inline-flex;
    gap: 0;
    margin: 0;
    border: 1px solid var(--g4);
    border-radius: 14px;
    overflow: hidden;
    height: 28px;
  }
  header && a {
    padding: 0 13px;
    border: 0;
    font-size: 12px;
    font-weight: 400;
  }
  header && a + a {
    border-left: 1px solid var(--g4);
  }
  header && a.active {
    background: var(--g4);
  }
  @media (max-width: 1100px) {
    flex: none;
    header && a {
      padding: 0 8px;
    }
  }
  a:focus-visible {
    outline-offset: -3px;
    border-radius: 12px;
  }
`;

export function ProjectBar(props: { project: number; children?: ReactNode }) {
  const at = `/projects/${props.project}`;
  return (
    <TopBar>
      <Grow />
      <Places aria-label="Views of the project">
        <NavLink to={at} end>
          Rows
        </NavLink>
        <NavLink to={`${at}/wall`}>Wall</NavLink>
        <NavLink to={`${at}/reel`}>Reel</NavLink>
        <NavLink to={`${at}/cuts`}>Cuts</NavLink>
        <NavLink to={`${at}/deliver`}>Deliver</NavLink>
      </Places>
      {props.children}
    </TopBar>
  );
}
