package main

import (
	"fmt"
	"go/ast"
	"go/constant"
	"go/token"
	"go/types"
	"strconv"
	"strings"
)

// A bug is one small change of a package's code. Kinds are named as the mutation tester of
// scripts/mutants names them.
type bug struct {
	id       int
	at       token.Position
	kind     string
	from, to string
	fate     string // see the fates
}

// The fates of a bug.
const (
	seen      = "seen"      // a test fails
	lived     = "lived"     // no test does
	slow      = "slow"      // a test did not come to an end
	unreached = "unreached" // no test runs it
)

var (
	arithmetic = map[token.Token]token.Token{token.ADD: token.SUB, token.SUB: token.ADD, token.MUL: token.QUO, token.QUO: token.MUL, token.REM: token.MUL}
	boundary   = map[token.Token]token.Token{token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR}
	negation   = map[token.Token]token.Token{token.EQL: token.NEQ, token.NEQ: token.EQL, token.LSS: token.GEQ, token.GEQ: token.LSS, token.LEQ: token.GTR, token.GTR: token.LEQ}
	called     = map[token.Token]string{token.ADD: "Add", token.SUB: "Sub", token.MUL: "Mul", token.QUO: "Quo", token.REM: "Rem", token.LSS: "Lss", token.LEQ: "Leq", token.GTR: "Gtr", token.GEQ: "Geq"}
)

// A planter writes a package's files anew, every bug in its place behind its number.
type planter struct {
	files *token.FileSet
	info  *types.Info
	src   []byte // of the file at hand
	bugs  []*bug
}

func (p *planter) add(at token.Pos, kind string, from, to token.Token) int {
	p.bugs = append(p.bugs, &bug{id: len(p.bugs) + 1, at: p.files.Position(at), kind: kind, from: from.String(), to: to.String()})
	return len(p.bugs)
}

func (p *planter) text(from, to token.Pos) string {
	f := p.files.File(from)
	return string(p.src[f.Offset(from):f.Offset(to)])
}

// planted is the source of a node with its bugs in it.
func (p *planter) planted(n ast.Node) string {
	var out strings.Builder
	at := n.Pos()
	put := func(c ast.Node, text string) {
		out.WriteString(p.text(at, c.Pos()))
		out.WriteString(text)
		at = c.End()
	}
	ast.Inspect(n, func(c ast.Node) bool {
		switch e := c.(type) {
		case nil, *ast.ArrayType:
			return false // the length of an array is a constant
		case *ast.GenDecl:
			return e.Tok != token.CONST
		case *ast.BinaryExpr:
			if text, ok := p.binary(e); ok {
				put(e, text)
				return false
			}
		case *ast.UnaryExpr:
			if text, ok := p.unary(e); ok {
				put(e, text)
				return false
			}
		case *ast.IncDecStmt:
			basic, ok := p.info.Types[e.X].Type.Underlying().(*types.Basic)
			if !ok {
				return true
			}
			step, other := "+=", token.DEC
			if e.Tok == token.DEC {
				step, other = "-=", token.INC
			}
			id := p.add(e.TokPos, "INCREMENT_DECREMENT", e.Tok, other)
			put(e, fmt.Sprintf("%s %s plantedOne[%s](%d)", p.planted(e.X), step, basic.Name(), id))
			return false
		}
		return true
	})
	out.WriteString(p.text(at, n.End()))
	return out.String()
}

// unary plants in −x.
func (p *planter) unary(e *ast.UnaryExpr) (string, bool) {
	if e.Op != token.SUB {
		return "", false
	}
	of := p.info.Types[e]
	if of.Value == nil {
		id := p.add(e.OpPos, "INVERT_NEGATIVES", token.SUB, token.ADD)
		return fmt.Sprintf("plantedNeg(%d, %s)", id, p.planted(e.X)), true
	}
	basic, ok := typed(of.Type)
	if !ok {
		return "", false
	}
	id := p.add(e.OpPos, "INVERT_NEGATIVES", token.SUB, token.ADD)
	return fmt.Sprintf("plantedNeg[%s](%d, %s)", basic, id, p.text(e.X.Pos(), e.X.End())), true
}

// typed is the name of a basic type; of a constant that has none yet there is nothing to plant.
func typed(t types.Type) (string, bool) {
	basic, ok := t.(*types.Basic)
	if !ok || basic.Info()&types.IsUntyped != 0 {
		return "", false
	}
	return basic.Name(), true
}

func numeric(t types.Type) bool {
	basic, ok := t.Underlying().(*types.Basic)
	return ok && basic.Info()&(types.IsInteger|types.IsFloat) != 0
}

// binary plants in a sum or a comparison.
func (p *planter) binary(e *ast.BinaryExpr) (string, bool) {
	of := p.info.Types[e]
	if wrong, ok := arithmetic[e.Op]; ok && numeric(of.Type) {
		if of.Value != nil {
			return p.constant(e, wrong)
		}
		id := p.add(e.OpPos, "ARITHMETIC_BASE", e.Op, wrong)
		return fmt.Sprintf("planted%s(%d, %s, %s)", called[e.Op], id, p.planted(e.X), p.planted(e.Y)), true
	}
	wrong, ok := negation[e.Op]
	if !ok || of.Value != nil {
		return "", false
	}
	if near, ok := boundary[e.Op]; ok {
		edge, other := p.add(e.OpPos, "CONDITIONALS_BOUNDARY", e.Op, near), p.add(e.OpPos, "CONDITIONALS_NEGATION", e.Op, wrong)
		return fmt.Sprintf("planted%s(%d, %d, %s, %s)", called[e.Op], edge, other, p.planted(e.X), p.planted(e.Y)), true
	}
	id := p.add(e.OpPos, "CONDITIONALS_NEGATION", e.Op, wrong)
	return fmt.Sprintf("plantedNot(%d, %s %s %s)", id, p.planted(e.X), e.Op, p.planted(e.Y)), true
}

// constant plants in a sum of constants: both answers are worked out here.
func (p *planter) constant(e *ast.BinaryExpr, wrong token.Token) (string, bool) {
	basic, ok := typed(p.info.Types[e].Type)
	x, y := p.info.Types[e.X].Value, p.info.Types[e.Y].Value
	if !ok || wrong == token.QUO && constant.Sign(y) == 0 || wrong != token.QUO && e.Op == token.REM {
		return "", false
	}
	value, _ := constant.Float64Val(constant.BinaryOp(constant.ToFloat(x), wrong, constant.ToFloat(y)))
	if numeric := p.info.Types[e].Type.Underlying().(*types.Basic); numeric.Info()&types.IsInteger != 0 {
		value = float64(int(value))
	}
	id := p.add(e.OpPos, "ARITHMETIC_BASE", e.Op, wrong)
	return fmt.Sprintf("plantedConst[%s](%d, %s, %s)", basic, id, p.text(e.Pos(), e.End()), strconv.FormatFloat(value, 'g', 17, 64)), true
}
