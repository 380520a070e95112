using System;
using System.Text;
using System.Threading;
using System.Windows.Forms;
using App.Text;

/// <summary>A form whose texts are bound to the source, and a menu that was built once.</summary>
public static class Program
{
    [STAThread]
    public static void Main()
    {
        Console.OutputEncoding = new UTF8Encoding(false);
        var cultures = new CultureSwitch();
        var form = new Form { Width = 400, Height = 300 };
        var source = new WordingSource(cultures);
        var title = new Label();
        var menu = new Button { Top = 40 };
        var field = new TextBox { Top = 80, Text = "Runa" };
        form.DataBindings.Add("Text", source, "BoardingTitle");
        title.DataBindings.Add("Text", source, "BoardingTitle");
        menu.DataBindings.Add("Text", source, "ActionBack");
        form.Controls.AddRange(new Control[] { title, menu, field });
        source.PropertyChanged += (sender, change) => form.RightToLeft = source.IsRightToLeft ? RightToLeft.Yes : RightToLeft.No;
        form.Show();
        field.Select(1, 2);
        void Tell()
        {
            Application.DoEvents();
            Console.WriteLine(cultures.Current + " " + form.Text + " " + title.Text + " " + menu.Text + " " + form.RightToLeft + " typed " + field.Text + " " + field.SelectedText);
        }

        Tell();
        cultures.Choose("ar");
        Tell();
        var thread = new Thread(() => cultures.Choose("de"));
        thread.Start();
        thread.Join();
        Tell();
    }
}
