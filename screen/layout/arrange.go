package layout

// row sizes children side by side: fixed and fitting ones first, those that
// fill share what is left.
func (e *engine) row(b *Box, width, height int) (w, h int) {
	gap := b.Node.Gap
	left := width - gap*max(len(b.Children)-1, 0)
	var filling []*Box
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		if c.Node.Width.Fill {
			filling = append(filling, c)
			left -= ml + mr
			continue
		}
		e.size(c, max(left-ml-mr, 0), max(height-mt-mb, 0))
		left -= c.Frame.Width + ml + mr
	}
	for i, c := range filling {
		share := c.Node.Width.Bound(max(left, 0) / (len(filling) - i))
		_, mt, _, mb := e.margin(c.Node)
		e.size(c, share, max(height-mt-mb, 0))
		c.Frame.Width = share
		left -= share
	}
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		w += c.Frame.Width + ml + mr
		h = max(h, c.Frame.Height+mt+mb)
	}
	return w + gap*max(len(b.Children)-1, 0), h
}

// column sizes children one below the other.
func (e *engine) column(b *Box, width, height int) (w, h int) {
	gap := b.Node.Gap
	left := height - gap*max(len(b.Children)-1, 0)
	var filling []*Box
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		if c.Node.Height.Fill {
			filling = append(filling, c)
			left -= mt + mb
			continue
		}
		e.size(c, max(width-ml-mr, 0), max(left-mt-mb, 0))
		left -= c.Frame.Height + mt + mb
	}
	for i, c := range filling {
		share := c.Node.Height.Bound(max(left, 0) / (len(filling) - i))
		ml, _, mr, _ := e.margin(c.Node)
		e.size(c, max(width-ml-mr, 0), share)
		c.Frame.Height = share
		left -= share
	}
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		w = max(w, c.Frame.Width+ml+mr)
		h += c.Frame.Height + mt + mb
	}
	return w, h + gap*max(len(b.Children)-1, 0)
}

// grid sizes children in columns: fixed ones have their width, fitting ones
// that of their widest child, and those that fill share what is left.
func (e *engine) grid(b *Box, width, height int) (w, h int) {
	n := b.Node
	b.columns = make([]int, len(n.Columns))
	left, filling := width-n.Gap*(len(n.Columns)-1), 0
	for i, column := range n.Columns {
		switch {
		case column.Fill:
			filling++
			continue
		case column.Units > 0:
			b.columns[i] = column.Units
		default:
			for j := i; j < len(b.Children); j += len(n.Columns) {
				c := b.Children[j]
				ml, _, mr, _ := e.margin(c.Node)
				e.size(c, max(left-ml-mr, 0), height)
				b.columns[i] = max(b.columns[i], c.Frame.Width+ml+mr)
			}
			b.columns[i] = column.Bound(b.columns[i])
		}
		left -= b.columns[i]
	}
	for i, column := range n.Columns {
		if column.Fill {
			b.columns[i] = column.Bound(max(left, 0) / filling)
			left -= b.columns[i]
			filling--
		}
	}
	b.rows = make([]int, (len(b.Children)+len(n.Columns)-1)/len(n.Columns))
	for j, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		cell := max(b.columns[j%len(n.Columns)]-ml-mr, 0)
		e.size(c, cell, height)
		if c.Node.Width.Fill {
			c.Frame.Width = cell
		}
		b.rows[j/len(n.Columns)] = max(b.rows[j/len(n.Columns)], c.Frame.Height+mt+mb)
	}
	for _, column := range b.columns {
		w += column
	}
	for _, row := range b.rows {
		h += row
	}
	return w + n.Gap*max(len(b.columns)-1, 0), h + n.Gap*max(len(b.rows)-1, 0)
}

// arrange sets the places of a box and what is in it.
func (e *engine) arrange(b *Box, x, y int) {
	if b.settled != b.asked {
		w, h := b.Frame.Width, b.Frame.Height
		e.settle(b)
		b.Frame.Width, b.Frame.Height = w, h
	}
	b.Frame.X, b.Frame.Y = x, y
	left, top, right, bottom := e.insets(b.Node)
	b.Content = Frame{x + left, y + top, max(b.Frame.Width-left-right, 0), max(b.Frame.Height-top-bottom, 0)}
	switch b.Node.Kind {
	case "row", "tabs":
		e.arrangeRow(b)
	case "column", "list", "radio", "scroll":
		e.arrangeColumn(b)
	case "grid":
		e.arrangeGrid(b)
	case "stack", "fixed":
		for _, c := range b.Children {
			cx, cy := e.at(c, b.Content)
			e.arrange(c, cx, cy)
		}
	}
}

func (e *engine) arrangeRow(b *Box) {
	at := b.Content.X
	if e.rtl {
		at = b.Content.X + b.Content.Width
	}
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		y := b.Content.Y + mt + max(b.Content.Height-c.Frame.Height-mt-mb, 0)/2
		if e.rtl {
			at -= mr + c.Frame.Width
			e.arrange(c, at, y)
			at -= ml + b.Node.Gap
		} else {
			at += ml
			e.arrange(c, at, y)
			at += c.Frame.Width + mr + b.Node.Gap
		}
	}
}

// across returns the place of a child in a width.
func (e *engine) across(c *Box, x, width int) int {
	ml, _, mr, _ := e.margin(c.Node)
	free := width - c.Frame.Width - ml - mr
	x += ml
	switch align := c.Node.Align; {
	case align == "center":
		x += free / 2
	case align == "right", align == "end" && !e.rtl, (align == "" || align == "start") && e.rtl:
		x += free
	}
	return x
}

func (e *engine) arrangeColumn(b *Box) {
	y := b.Content.Y
	for _, c := range b.Children {
		_, mt, _, mb := e.margin(c.Node)
		y += mt
		e.arrange(c, e.across(c, b.Content.X, b.Content.Width), y)
		y += c.Frame.Height + mb + b.Node.Gap
	}
}

func (e *engine) arrangeGrid(b *Box) {
	y := b.Content.Y
	for row, height := range b.rows {
		x := b.Content.X
		if e.rtl {
			x += b.Content.Width
		}
		for column, width := range b.columns {
			if e.rtl {
				x -= width
			}
			if i := row*len(b.columns) + column; i < len(b.Children) {
				c := b.Children[i]
				_, mt, _, mb := e.margin(c.Node)
				e.arrange(c, e.across(c, x, width), y+mt+max(height-c.Frame.Height-mt-mb, 0)/2)
			}
			if e.rtl {
				x -= b.Node.Gap
			} else {
				x += width + b.Node.Gap
			}
		}
		y += height + b.Node.Gap
	}
}
